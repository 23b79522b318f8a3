import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { changesOf } from "./changes";
import { chance } from "./HowSure";

type Reading = Schemas["ReadingOut"];

const reading = (name: string, value: number, state: Reading["state"] = "fine"): Reading => ({
  name,
  value,
  unit: "",
  limit: 0,
  fill: 0.5,
  notch: 0.5,
  state,
  detail: "front",
});

it("shows how each reading moved, and nothing at first", () => {
  expect(changesOf(null, [reading("rotor", 600)])).toEqual({});
  expect(
    changesOf([reading("rotor", 600), reading("fluid", 50)], [reading("rotor", 562), reading("fluid", 61)]),
  ).toEqual({
    rotor: -38,
    fluid: 11,
  });
  expect(changesOf([], [reading("rotor", 600)])).toEqual({ rotor: 0 });
});

it("puts a chance in words that claim no more than the draws can", () => {
  expect(chance(0, 128)).toBe("under 1 %");
  expect(chance(1, 128)).toBe("over 99 %");
  expect(chance(0.004, 128)).toBe("1 %");
  expect(chance(0.37, 128)).toBe("37 %");
});
