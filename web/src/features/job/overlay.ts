// The sheet as the hand has left it: what the server has, and what is on its way.

import type { Said } from "../../lib/said";
import type { Item } from "./outbox";
import type { Job, Step } from "./queries";

export const settled = (step: Step) => step.done || step.words !== "";

/** A job with everything that waits laid over it. */
export function overlaid(job: Job, items: Item[], me: string): Job {
  if (items.length === 0) return job;
  const steps = new Map(job.steps.map((step) => [step.key, step]));
  const values = { ...job.values };
  for (const item of items) {
    if (item.kind === "value") {
      if (item.value === null) delete values[item.name];
      else values[item.name] = item.value;
    }
    if (item.kind !== "mark") continue;
    const { mark } = item;
    const step = steps.get(mark.key);
    if (step) steps.set(mark.key, marked(step, mark, me));
  }
  return { ...job, values, steps: job.steps.map((step) => steps.get(step.key) ?? step) };
}

function marked(step: Step, mark: Extract<Item, { kind: "mark" }>["mark"], me: string): Step {
  const at = mark.at ?? null;
  switch (mark.kind) {
    case "done":
      return {
        ...step,
        done: true,
        words: mark.words ?? "",
        reached_Nm: mark.torque_Nm ?? step.torque_Nm,
        by: me,
        at,
      };
    case "words":
      return { ...step, done: false, words: mark.words ?? "", by: me, at };
    case "recheck":
      return { ...step, rechecked_by: me, rechecked_at: at };
    default:
      return {
        ...step,
        done: false,
        words: "",
        reached_Nm: null,
        by: "",
        at: null,
        rechecked_by: "",
        rechecked_at: null,
      };
  }
}

/** The first step that is waited for and not settled, or null. */
export function waitsFor(step: Step, steps: Step[]): Step | null {
  const open = new Map(steps.filter((other) => !settled(other)).map((other) => [other.key, other]));
  for (const key of step.waits_for) {
    const before = open.get(key);
    if (before) return before;
  }
  return null;
}

/** Why a step cannot be ticked yet; null where it can. */
export function blockedBy(step: Step, steps: Step[]): Said | string | null {
  if (settled(step)) return null;
  const before = waitsFor(step, steps);
  return before ? `first: ${before.text}` : (step.held ?? null);
}

export type Part = { key: string; label: string; steps: Step[] };

const corners: Record<string, string> = { left: "Left", right: "Right" };

/** A sheet in the parts it is worked through in: before, each corner, close. */
export function partsOf(job: Job): Part[] {
  const where = job.axle === "front" ? "Front" : "Rear";
  const found: Part[] = [{ key: "before", label: "Before", steps: [] }];
  for (const corner of job.corners)
    found.push({
      key: corner || "corner",
      label: `${where} ${corners[corner]?.toLowerCase() ?? ""}`.trim(),
      steps: [],
    });
  found.push({ key: "close", label: "Close", steps: [] });
  for (const step of job.steps) {
    const place =
      step.phase === "before"
        ? "before"
        : step.phase === "close"
          ? "close"
          : step.corner || job.corners[job.corners.length - 1] || "corner";
    found.find((part) => part.key === place)?.steps.push(step);
  }
  return found.filter((part) => part.steps.length > 0);
}

/** The first step nobody has said anything of. */
export const nextOf = (steps: Step[]) => steps.find((step) => !settled(step)) ?? null;
