import { withUnit } from "../../lib/units";
import type { Fastener, Job, Step } from "./queries";

/** A torque in both units, always: N m is written in one manual, lbf ft stands on the next wrench. */
export function torqueText(torque_Nm: number): string {
  const digits = torque_Nm < 20 ? 1 : 0;
  return `${withUnit(torque_Nm, "torque", "metric", digits)} · ${withUnit(torque_Nm, "torque", "imperial", digits)}`;
}

/** Drive and size of a fastener: "17 mm hex". */
export function driveText(fastener: Fastener): string {
  if (fastener.size_m === null) return fastener.drive === "hex" ? "" : fastener.drive;
  const mm = Number((1000 * fastener.size_m).toFixed(1));
  return fastener.drive.startsWith("six-lobe") || fastener.drive === "triple-square"
    ? `${fastener.drive} ${mm} mm`
    : `${mm} mm ${fastener.drive}`;
}

/** A step's tool with the size of its fastener. */
export function toolText(step: Step, fastener: Fastener | undefined): string {
  const drive = fastener ? driveText(fastener) : "";
  const hold =
    fastener?.counter_hold_m != null
      ? `${Number((1000 * fastener.counter_hold_m).toFixed(1))} mm to hold`
      : "";
  return [step.tool, drive, hold].filter(Boolean).join(", ");
}

export const fastenerOf = (job: Job, step: Step): Fastener | undefined =>
  step.fastener ? job.fasteners.find((entry) => entry.kind === step.fastener) : undefined;

export function timeText(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

export function cornerText(axle: string, corner: string): string {
  return corner ? `${axle} ${corner.replace("_", " ")}` : axle;
}
