export { BedStage } from "./BedStage";
export { RunPage } from "./RunPage";
