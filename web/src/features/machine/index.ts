export { MachineStage } from "./MachineStage";
