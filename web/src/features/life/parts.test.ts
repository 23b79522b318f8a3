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
  thickness_mm: 9,
  removed: false,
  ...changes,
});

it("puts the readings of an inspection together by their thinnest", () => {
  const groups = inspected([
    row({ id: 1, thickness_mm: 9 }),
    row({ id: 2, thickness_mm: 5.1, position: "right.outer" }),
    row({ id: 3, inspection_id: null, position: "", thickness_mm: 4 }),
    row({ id: 4, inspection_id: 8, thickness_mm: 8 }),
    row({ id: 5, inspection_id: 9, removed: true }),
  ]);
  expect(groups.map(({ id, count, thinnest }) => [id, count, thinnest.thickness_mm])).toEqual([
    [7, 2, 5.1],
    [8, 1, 8],
  ]);
});

it("names a pad as its label does", () => {
  expect(padText("front", "left.inner")).toBe("front left inner");
  expect(padText("rear", "inner")).toBe("rear inner");
  expect(padText("rear", "")).toBe("rear, thinnest");
});
