export { DecisionPage } from "./DecisionPage";
export { KeepForm, Kept } from "./Kept";
export { SharedPage } from "./SharedPage";
