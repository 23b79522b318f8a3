import { beforeEach, expect, it } from "vitest";
import { draftStore, type Entry, entryText, fitText, setDraft } from "./evidence";

beforeEach(() => draftStore.set({}));

const read: Entry = {
  kind: "pyrometer",
  axle: "front",
  part: "ring",
  value_C: 400,
  since_s: 90,
  speed_mps: 10,
};

it("says each piece of evidence in the reader's units", () => {
  expect(entryText(read, "metric")).toBe("front, 400 °C, 1.5 min after at 36 km/h");
  expect(entryText(read, "imperial")).toBe("front, 752 °F, 1.5 min after at 22 mph");
  const paint: Entry = { kind: "paint", axle: "rear", part: "ring", bound: "less_than", value_C: 550 };
  expect(entryText(paint, "metric")).toBe("rear, paint: less than 550 °C");
  const strip: Entry = { ...paint, part: "caliper", bound: "at_least", value_C: 121 };
  expect(entryText(strip, "metric")).toBe("rear caliper, paint: at least 121 °C");
  expect(entryText({ kind: "logged", axle: "front", csv: "t,T\n0,20\n\n1,30\n" }, "metric")).toBe(
    "front, log of 3 lines",
  );
});

it("keeps drafts by machine", () => {
  setDraft(1, [read]);
  setDraft(2, []);
  expect(draftStore.get()).toEqual({ 1: [read], 2: [] });
});

it("says a fit with its spread, and nothing for an axle without one", () => {
  const fit = {
    cooling: 1.318,
    cooling_sigma: 0.04,
    backing: 1.12,
    backing_sigma: 0.15,
    correlation: -0.1,
  };
  expect(fitText("Front", fit, false)).toBe(
    "Front cooling × 1.32 (± 4 %), plates to caliper × 1.12 (± 16 %)",
  );
  expect(fitText("Front", fit, true)).toMatch(/do not fit, so there is no range$/);
  expect(fitText("Rear", null, false)).toBeNull();
});
