export { LifeStage } from "./LifeStage";
export { ReadyPage } from "./ReadyPage";
export { outboxOf } from "./sending";
