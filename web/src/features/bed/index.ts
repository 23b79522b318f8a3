export { BedStage } from "./BedStage";
