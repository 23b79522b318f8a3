import type { Schemas } from "../../api/client";

type Reading = Schemas["ReadingOut"];

const order: Record<Reading["state"], number> = { over: 0, close: 1, fine: 2 };

/** The reading nearest to or furthest over its limit, by state. */
export function worstOf(readings: Reading[]): Reading | undefined {
  return [...readings].sort((a, b) => order[a.state] - order[b.state])[0];
}

/** What to do next, from the readings: the place where the worst of them is settled. */
export function nextStep(
  readings: Reading[],
  stages: Schemas["StageOut"][],
): { stage: string; label: string } {
  const worst = worstOf(readings);
  const bed = stages.find((stage) => stage.name === "bed")?.state;
  const choose = stages.find((stage) => stage.name === "choose")?.state;
  if (worst?.state === "over" || worst?.state === "close") {
    if (worst.name === "life") return { stage: "life", label: "Measure the pads" };
    return { stage: "choose", label: "Choose pads" };
  }
  if (choose === "done" && bed !== "done") return { stage: "bed", label: "Bed the pads in" };
  return { stage: "duty", label: "Look at the duty" };
}
