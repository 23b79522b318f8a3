import type { Schemas } from "../../api/client";
import { toBeBedded } from "../verdict/queries";

/** What to do next: the place where what is out, or nearest to it, is settled. */
export function nextStep(
  outcome: Schemas["OutcomeOut"],
  stages: Schemas["StageOut"][],
): { stage: string; label: string } {
  if (outcome.state !== "fine") {
    if (outcome.limit === "life" || outcome.limit === "rotor worn out")
      return { stage: "inspect", label: "Measure the pads" };
    return { stage: "choose", label: "Choose pads" };
  }
  if (toBeBedded(stages)) return { stage: "bed", label: "Bed the pads in" };
  return { stage: "duty", label: "Look at the duty" };
}
