import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { nextStep } from "./next";

type Reading = Schemas["ReadingOut"];

const reading = (name: string, value: number, state: Reading["state"] = "fine"): Reading => ({
  name,
  value,
  unit: "",
  limit: 0,
  left: 0,
  fill: 0.5,
  notch: 0.5,
  state,
  detail: "front",
});
const stage = (name: string, state: Schemas["StageOut"]["state"]) => ({ name, state, note: null });

it("sends a person where the worst reading is settled", () => {
  const bedded = [stage("choose", "done"), stage("bed", "done")];
  expect(nextStep([reading("rotor", 1, "over"), reading("life", 1)], bedded).stage).toBe("choose");
  expect(nextStep([reading("rotor", 1), reading("life", 1, "close")], bedded).stage).toBe("inspect");
  expect(nextStep([reading("rotor", 1)], [stage("choose", "done"), stage("bed", "empty")]).stage).toBe("bed");
  expect(nextStep([reading("rotor", 1)], bedded).stage).toBe("duty");
  expect(nextStep([reading("window", 1, "close"), reading("life", 1, "close")], bedded).stage).toBe(
    "inspect",
  );
});
