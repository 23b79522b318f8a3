export { ChooseStage } from "./ChooseStage";
