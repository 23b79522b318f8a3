import type { Schemas } from "../../api/client";

type Reading = Schemas["ReadingOut"];

const order: Record<Reading["state"], number> = { over: 0, close: 1, fine: 2 };

/** The reading in the worst state; of equals the pads' life, because its day is fixed. */
export function worstOf(readings: Reading[]): Reading | undefined {
  const due = (reading: Reading) => (reading.name === "life" ? 0 : 1);
  return [...readings].sort((a, b) => order[a.state] - order[b.state] || due(a) - due(b))[0];
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
    if (worst.name === "life") return { stage: "inspect", label: "Measure the pads" };
    return { stage: "choose", label: "Choose pads" };
  }
  if (choose === "done" && bed !== "done") return { stage: "bed", label: "Bed the pads in" };
  return { stage: "duty", label: "Look at the duty" };
}
