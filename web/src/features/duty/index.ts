export { Calibrate } from "./Calibrate";
export { DutyStage } from "./DutyStage";
export { runOf } from "./drafts";
export { addEvidence } from "./evidence";
