import type { Schemas } from "../../api/client";

type Duty = Schemas["DutyOut"];
type Machine = Pick<Schemas["MachineOut"], "kind" | "towing">;

/** Whether a duty is one of this machine's kind: loads for trucks and what tows, circuits for cars and motorcycles. */
export function suits(machine: Machine, duty: Pick<Duty, "use">): boolean {
  if (duty.use === "street") return true;
  if (duty.use === "tow") return machine.towing || machine.kind === "truck";
  if (duty.use === "delivery") return machine.kind === "truck";
  return machine.kind !== "truck";
}

/** This machine's duties and those of its kind, and the others. */
export function sorted(
  duties: Duty[],
  machine: Machine | undefined,
  inForce: number | null,
): [Duty[], Duty[]] {
  const near = (row: Duty) => row.id === inForce || machine === undefined || suits(machine, row);
  return [duties.filter(near), duties.filter((row) => !near(row))];
}
