export { LogPage, LogStage } from "./Log";
export { ThingPage } from "./ThingPage";
