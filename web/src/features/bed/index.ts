export { BedStage } from "./BedStage";
export { RunPage } from "./RunPage";
export { outboxOf } from "./running";
