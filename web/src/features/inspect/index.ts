export { InspectStage } from "./InspectStage";
