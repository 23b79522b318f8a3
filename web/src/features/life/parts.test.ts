import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { inspected, padText } from "./parts";

const row = (changes: Partial<Schemas["MeasurementOut"]>): Schemas["MeasurementOut"] => ({
  id: 1,
  axle: "front",
  position: "left.inner",
  inspection_id: 7,
  measured_on: "2026-11-25",
  odometer_km: 8412,
  thickness_m: 0.009,
  removed: false,
  ...changes,
});

it("puts the readings of an inspection together by their thinnest", () => {
  const groups = inspected([
    row({ id: 1, thickness_m: 0.009 }),
    row({ id: 2, thickness_m: 0.0051, position: "right.outer" }),
    row({ id: 3, inspection_id: null, position: "", thickness_m: 0.004 }),
    row({ id: 4, inspection_id: 8, thickness_m: 0.008 }),
    row({ id: 5, inspection_id: 9, removed: true }),
  ]);
  expect(groups.map(({ id, count, thinnest }) => [id, count, thinnest.thickness_m])).toEqual([
    [7, 2, 0.0051],
    [8, 1, 0.008],
  ]);
});

it("names a pad as its label does", () => {
  expect(padText("front", "left.inner")).toBe("front left inner");
  expect(padText("rear", "inner")).toBe("rear inner");
  expect(padText("rear", "")).toBe("rear, thinnest");
});
