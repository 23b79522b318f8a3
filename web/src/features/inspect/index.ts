export { InspectStage } from "./InspectStage";
export { outboxOf } from "./sheet";
