export { FitStage } from "./FitStage";
