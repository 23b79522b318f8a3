export { LifeStage } from "./LifeStage";
