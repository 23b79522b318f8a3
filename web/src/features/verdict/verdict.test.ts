import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { chance } from "../../lib/text";
import { changesOf } from "./changes";
import { placeOf } from "./WhyDrawer";

type Reading = Schemas["ReadingOut"];

const reading = (name: string, value: number, state: Reading["state"] = "fine"): Reading => ({
  name,
  value,
  unit: "",
  limit: 100,
  left: 100 - value,
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

it("leads from an input to where it is edited", () => {
  expect(placeOf(3, "vehicle.mass_kg")).toBe("/m/3/machine?field=vehicle.mass_kg");
  expect(placeOf(3, "front.rotor.thickness_m")).toBe("/m/3/machine?field=front.rotor.thickness_m");
  expect(placeOf(3, "front.rotor.thickness_m", "1-2-3-4")).toBe("/catalogue");
  expect(placeOf(3, "rear.pad.mu")).toBe("/catalogue");
  expect(placeOf(3, "environment.pressure_Pa")).toBe("/m/3/machine?field=environment.altitude_m");
});
