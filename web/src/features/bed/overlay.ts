// A run as the passenger has left it: what the server knows, and what is on its way there.
import type { Event, Item, Run } from "./queries";

const STEPS = ["done", "harder", "skip"];

export type Card = {
  item: Item | null;
  /** From 1; how many there are in all. */
  number: number;
  total: number;
  next: Item | null;
  did: Run["did"];
  left: Item[];
  /** The gap under way: seconds in all, the speed to hold, and when it began, in s after the start. */
  gap: { seconds: number; speed_mps: number; from_s: number } | null;
  canUndo: boolean;
};

/** The run with everything that waits laid over it. */
export function overlaid(run: Run, waiting: Event[]): Card {
  const kinds: string[] = [...run.kinds];
  const did = [...run.did];
  const left = [...run.left];
  let gap: Card["gap"] =
    run.waits_from_s === null
      ? null
      : { seconds: run.gap_s, speed_mps: run.gap_mps, from_s: run.waits_from_s };
  const arrived = new Set(run.tokens);
  for (const event of waiting) {
    // It has arrived, and only the word of it is still on its way back.
    if (arrived.has(event.token)) continue;
    if (event.kind === "undo") {
      const kind = kinds.pop();
      if (kind && STEPS.includes(kind)) {
        const last = did.pop();
        if (last) left.unshift(last.item);
        gap = gapAfter(did);
      }
      continue;
    }
    kinds.push(event.kind);
    if (event.kind === "traffic")
      gap = { seconds: run.traffic_s, speed_mps: gap?.speed_mps ?? 0, from_s: event.at_s };
    if (!STEPS.includes(event.kind)) continue;
    const item = left.shift();
    if (!item) continue;
    did.push({ how: event.kind as Run["did"][number]["how"], at_s: event.at_s, item });
    if (event.kind !== "skip") gap = gapAfter(did);
  }
  return {
    item: left[0] ?? null,
    number: did.length + 1,
    total: did.length + left.length,
    next: left[1] ?? null,
    did,
    left,
    gap,
    canUndo: kinds.length > 0,
  };
}

function gapAfter(did: Run["did"]): Card["gap"] {
  const last = did.findLast((entry) => entry.how !== "skip");
  return last ? { seconds: last.item.then_s, speed_mps: last.item.then_mps, from_s: last.at_s } : null;
}

/** Of two answers about a run the one the server gave last: what the device kept of an address may be the older one. */
export function later(one: Run | null | undefined, other: Run | null | undefined): Run | null {
  if (!one || !other) return one ?? other ?? null;
  return Date.parse(one.now) >= Date.parse(other.now) ? one : other;
}

/** Seconds after the run began, by this device's clock set to the server's. */
export function secondsOf(run: Run, now: number, skew_ms: number): number {
  return Math.max(0, (now - skew_ms - Date.parse(run.started_at)) / 1000);
}

/** What is left of a gap, in whole seconds; 0 once it is over. */
export function leftOf(gap: Card["gap"], at_s: number): number {
  return gap ? Math.max(0, Math.ceil(gap.seconds - (at_s - gap.from_s))) : 0;
}
