export { AddMachine } from "./AddMachine";
export { MachineStage } from "./MachineStage";
