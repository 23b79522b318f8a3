export { Settings } from "./Settings";
