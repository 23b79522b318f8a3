export { JobStage } from "./JobStage";
export { outboxOf } from "./sheet";
