import { expect, it } from "vitest";
import { type Candidate, ladderColumns, onePerPad, place, withTried } from "./candidates";

const axle = {
  peak_C: 600,
  window_low_C: 200,
  window_high_C: 700,
  pad_limit_C: 800,
  rotor_limit_C: 700,
  profile: [0.5, 0.5],
};

function candidate(key: string, pad: string, rejected_for: string | null = null): Candidate {
  return {
    key,
    pad,
    family: "organic",
    provenance: "estimate",
    front_rotor: "plain",
    rear_rotor: "plain",
    score: 50,
    rejected_for,
    reason: "",
    front: axle,
    rear: axle,
    window_share: 1,
    pedal_worst_N: 300,
    fluid_peak_C: 100,
    fluid_margin_K: 100,
    life_events: 10,
    life_hours: 5,
    cost_per_hour: 2,
    pads_price: 100,
    fitted: false,
  };
}

const ranked = [
  candidate("1", "A"),
  candidate("2", "A"),
  candidate("3", "B"),
  candidate("4", "C"),
  candidate("5", "D"),
];
const rejected = [candidate("6", "E", "pad fades"), candidate("7", "E", "pad fades")];

it("takes the best rotors of each pad", () => {
  expect(onePerPad(ranked).map((entry) => entry.key)).toEqual(["1", "3", "4", "5"]);
  expect(onePerPad([])).toEqual([]);
});

it("draws three that pass and one warning, or four that pass", () => {
  expect(ladderColumns(ranked, rejected, null).map((entry) => entry.key)).toEqual(["1", "3", "4", "6"]);
  expect(ladderColumns(ranked, [], null).map((entry) => entry.key)).toEqual(["1", "3", "4", "5"]);
  expect(ladderColumns([], rejected, null).map((entry) => entry.key)).toEqual(["6"]);
});

it("always draws the chosen one", () => {
  expect(ladderColumns(ranked, rejected, "5").map((entry) => entry.key)).toEqual(["1", "3", "4", "5"]);
  expect(ladderColumns(ranked, rejected, "3").map((entry) => entry.key)).toEqual(["1", "3", "4", "6"]);
});

it("counts places in words", () => {
  const many = Array.from({ length: 23 }, (_, i) => candidate(String(i), `P${i}`));
  expect([0, 1, 2, 3, 10, 11, 12, 20, 21].map((i) => place(many, (many[i] as Candidate).key))).toEqual([
    "1st",
    "2nd",
    "3rd",
    "4th",
    "11th",
    "12th",
    "13th",
    "21st",
    "22nd",
  ]);
});

it("puts what was tried into the columns and keeps their reasons", () => {
  const columns = [{ ...candidate("1", "A"), reason: "it stays cool" }, candidate("3", "B")];
  const hotter = { ...candidate("1", "A", "pad fades"), reason: "the only one here", fluid_peak_C: 140 };
  const now = withTried(columns, [hotter]);
  expect(now.map((entry) => entry.rejected_for)).toEqual(["pad fades", null]);
  expect(now[0]).toMatchObject({ fluid_peak_C: 140, reason: "it stays cool" });
  expect(withTried(columns, undefined)).toEqual(columns);
});
