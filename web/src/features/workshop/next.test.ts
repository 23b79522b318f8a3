import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { nextStep } from "./next";

const outcome = (state: Schemas["OutcomeOut"]["state"], limit: string) => ({
  state,
  limit,
  rejects: state === "over",
  text: { template: "", values: {} },
});
const stage = (name: string, state: Schemas["StageOut"]["state"]) => ({ name, state, note: null });

it("sends a person where what is out is settled", () => {
  const bedded = [stage("choose", "done"), stage("bed", "done")];
  expect(nextStep(outcome("over", "pad fades"), bedded).stage).toBe("choose");
  expect(nextStep(outcome("over", "rotor worn out"), bedded).stage).toBe("inspect");
  expect(nextStep(outcome("close", "life"), bedded).stage).toBe("inspect");
  expect(nextStep(outcome("close", "window"), bedded).stage).toBe("choose");
  expect(nextStep(outcome("fine", "rotor"), [stage("choose", "done"), stage("bed", "empty")]).stage).toBe(
    "bed",
  );
  expect(nextStep(outcome("fine", "rotor"), bedded).stage).toBe("duty");
});
