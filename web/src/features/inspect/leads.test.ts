import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { verbatim } from "../../lib/said";
import { nextSteps } from "./leads";

const ruling = (
  subject: string,
  word: string,
  state: Schemas["RulingOut"]["state"],
): Schemas["RulingOut"] => ({
  subject,
  word,
  state,
  headline: verbatim(""),
  text: null,
  rule: verbatim(""),
  check: "",
  choices: [],
  overruled: null,
});

it("leads from each verdict to the stage that settles it, each thing once", () => {
  const steps = nextSteps([
    ruling("front.pads", "due", "over"),
    ruling("front_left.rotor", "replace", "over"),
    ruling("front_right.rotor", "replace", "over"),
    ruling("front.rotors", "replace", "over"),
    ruling("front_left.hose", "cracked", "over"),
    ruling("rear.pads", "plan", "close"),
    ruling("fluid.age", "change", "close"),
    ruling("rear_left.rotor", "keep", "fine"),
  ]);
  expect(steps.map((step) => [step.what, step.to])).toEqual([
    ["front pads are due", "choose"],
    ["front rotors are to be replaced", "choose"],
    [verbatim(""), ""],
    ["rear pads are due soon", "choose"],
    ["the fluid is due", "choose#fluids"],
  ]);
});

it("takes a person's word before the computed one", () => {
  const kept = {
    ...ruling("front.pads", "due", "over"),
    overruled: { computed: "due", word: "fine", reason: "x", made_at: "" },
  };
  expect(nextSteps([kept])).toEqual([]);
});
