import { beforeEach, expect, it } from "vitest";
import { answerText } from "../../lib/text";
import { draftStore, type Entry, entryText, fitText, setDraft } from "./evidence";

beforeEach(() => draftStore.set({}));

const read: Entry = { kind: "pyrometer", axle: "front", value_C: 400, since_s: 90, speed_mps: 10 };

it("says each piece of evidence in the reader's units", () => {
  expect(entryText(read, "metric")).toBe("front, 400 °C, 1.5 min after at 36 km/h");
  expect(entryText(read, "imperial")).toBe("front, 752 °F, 1.5 min after at 22 mph");
  const paint: Entry = { kind: "paint", axle: "rear", bound: "less_than", value_C: 550 };
  expect(entryText(paint, "metric")).toBe("rear, paint: less than 550 °C");
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
    pad_heat: 0.97,
    pad_heat_sigma: 0.15,
    correlation: -0.1,
  };
  expect(fitText("Front", fit)).toBe("Front cooling × 1.32 (± 4 %), heat into the pads × 0.97");
  expect(fitText("Rear", null)).toBeNull();
});

it("puts values into an answer's sentence in the reader's units", () => {
  const base = { question: "greatest_speed", outcome: "value" as const, low: 3, high: 36, unit: "m/s" };
  const text = "Up to {value}; over that the front ring reaches 605 °C, 5 K over.";
  expect(answerText({ ...base, value: 14.2, text }, "metric")).toBe(
    "Up to 51 km/h; over that the front ring reaches 605 °C, 5 K over.",
  );
  expect(answerText({ ...base, value: 14.2, text }, "imperial")).toContain(
    "31 mph; over that the front ring reaches 1121 °F, 9 °F",
  );
  const none = { ...base, value: null, outcome: "none" as const, unit: "kg", low: 0, high: 5000 };
  expect(
    answerText({ ...none, text: "None from {low} to {high}: already at {low} it boils." }, "metric"),
  ).toBe("None from 0 kg to 5000 kg: already at 0 kg it boils.");
});

it("rounds what something may be at most down, never up", () => {
  const base = { question: "greatest_trailer", outcome: "value" as const, low: 0, high: 5000, unit: "kg" };
  expect(answerText({ ...base, value: 2296, text: "Up to {value}." }, "metric")).toBe("Up to 2200 kg.");
  expect(answerText({ ...base, value: 2300, text: "Up to {value}." }, "metric")).toBe("Up to 2300 kg.");
  expect(answerText({ ...base, value: 99.6, text: "Up to {value}." }, "metric")).toBe("Up to 99 kg.");
  expect(answerText({ ...base, value: 2300, text: "Up to {value}." }, "imperial")).toBe("Up to 5000 lb.");
});
