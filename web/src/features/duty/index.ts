export { Calibrate } from "./Calibrate";
export { DutyStage } from "./DutyStage";
export { addEvidence } from "./evidence";
