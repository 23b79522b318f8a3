import { expect, it } from "vitest";
import { isTrying, noWhatIf } from "./whatIf";
import { whatIfWords } from "./whatIfWords";

const levers = {
  air_C: 20,
  mass_kg: 690,
  fluid_age_months: 14,
  driver_level: "intermediate",
  driver_levels: ["novice", "intermediate", "advanced"],
  repeats: 32,
  noun: "lap",
  speed_mps: 10,
  gears: ["usual", "one_lower"],
  grade: 0.08,
  length_m: 5000,
  trailer_brake_share: 0.6,
};

it("says every change that is tried, in the reader's units, and nothing that is as it was", () => {
  expect(isTrying(noWhatIf)).toBe(false);
  expect(whatIfWords(noWhatIf, levers, "metric")).toEqual([]);
  const all = {
    cooling_factor: 1.5,
    air_C: 35,
    extra_mass_kg: 80,
    driver_level: "advanced",
    repeats: 1,
    speed_factor: 0.5,
    gear: "one_lower",
    fluid_age_months: 0,
    trailer_brake_share: 0,
    grade_factor: 1.25,
    length_factor: 2,
  };
  expect(isTrying(all)).toBe(true);
  expect(whatIfWords(all, levers, "metric")).toEqual([
    "cooling × 1.5",
    "air 35 °C",
    "80 kg more on board",
    "driver advanced",
    "1 lap",
    "18 km/h down the hill",
    "10.0 % slope",
    "10.0 km of it",
    "gear one lower, engine × 1.4",
    "trailer brakes failed",
    "fluid 0 months old",
  ]);
  expect(whatIfWords({ ...noWhatIf, extra_mass_kg: -100 }, levers, "imperial")).toEqual([
    "220 lb less on board",
  ]);
});
