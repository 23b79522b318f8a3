export { Workshop } from "./Workshop";
