export { LifeStage } from "./LifeStage";
export { ReadyPage } from "./ReadyPage";
