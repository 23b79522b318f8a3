export { JobStage } from "./JobStage";
