export { DutyStage } from "./DutyStage";
