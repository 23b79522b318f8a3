export { Catalogue } from "./Catalogue";
