export { PlanPage } from "./PlanPage";
export { Workshop } from "./Workshop";
