import { expect, it } from "vitest";
import { verbatim } from "../../lib/said";
import {
  type Candidate,
  inOrder,
  inSight,
  ladderColumns,
  onePerPad,
  pickedOf,
  place,
  withTried,
} from "./candidates";
import { changeText, stateOf } from "./fluidWords";
import { momentAt } from "./LadderPanel";

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
    rear_pad: pad,
    pads: pad,
    set_up: "",
    family: "organic",
    provenance: "estimate",
    front_rotor: "plain",
    rear_rotor: "plain",
    score: 50,
    dominated_by: null,
    rejected_for,
    reason: verbatim(""),
    front: axle,
    rear: axle,
    window_share: 1,
    pedal_worst_N: 300,
    fluid_peak_C: 100,
    fluid_margin_K: 100,
    worn_margin_K: 60,
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
  const columns = [{ ...candidate("1", "A"), reason: verbatim("it stays cool") }, candidate("3", "B")];
  const hotter = {
    ...candidate("1", "A", "pad fades"),
    reason: verbatim("the only one here"),
    fluid_peak_C: 140,
  };
  const now = withTried(columns, [hotter]);
  expect(now.map((entry) => entry.rejected_for)).toEqual(["pad fades", null]);
  expect(now[0]).toMatchObject({ fluid_peak_C: 140, reason: verbatim("it stays cool") });
  expect(withTried(columns, undefined)).toEqual(columns);
});

it("keeps mixed pads and set-ups apart from the same pads all round", () => {
  const mixed = { ...candidate("8", "A"), rear_pad: "B", pads: "A with B behind" };
  const setUp = { ...candidate("9", "A"), set_up: "Big front" };
  expect(onePerPad([...ranked, mixed, setUp]).map((entry) => entry.key)).toEqual([
    "1",
    "3",
    "4",
    "5",
    "8",
    "9",
  ]);
});

it("keeps to the pads of what was picked when its set-up is no longer on offer", () => {
  const offered = [
    candidate("5-5-1-1", "A"),
    candidate("6-5-1-1", "B"),
    { ...candidate("6-6-9-1+13", "C"), set_up: "Before" },
    candidate("6-6-9-1", "C"),
  ];
  const out = [candidate("7-7-1-1", "D", "pad fades")];
  const picked = (key: string | null) => pickedOf(offered, out, key)?.key;
  expect(picked("6-6-9-1")).toBe("6-6-9-1");
  expect(picked("7-7-1-1")).toBe("7-7-1-1");
  expect(picked("6-6-1-1+12")).toBe("6-6-9-1");
  expect(picked("8-8-1-1+12")).toBe("5-5-1-1");
  expect(picked(null)).toBe("5-5-1-1");
  expect(pickedOf([], out, "8-8-1-1")).toBeNull();
});

it("orders the whole ladder and leaves what is out behind", () => {
  const cool = { ...candidate("8", "F"), front: { ...axle, peak_C: 300 }, rear: { ...axle, peak_C: 310 } };
  const short = { ...candidate("9", "G"), life_events: 2 };
  const all = [...ranked, cool, short];
  const keys = (order: Parameters<typeof inOrder>[2]) =>
    inOrder(all, rejected, order).map((entry) => entry.key);
  expect(keys("score")).toEqual(["1", "2", "3", "4", "5", "8", "9", "6", "7"]);
  expect(keys("peak")[0]).toBe("8");
  expect(keys("life").slice(-3)).toEqual(["9", "6", "7"]);
});

it("asks for the columns in sight in steps, up to the last", () => {
  const many = Array.from({ length: 200 }, (_, i) => candidate(String(i), `P${i}`));
  const first = (at: number) => inSight(many, at, 5)[0]?.key;
  expect(inSight(many, 0, 5)).toHaveLength(12);
  expect([0, 3.9, 4.1, 195].map(first)).toEqual(["0", "0", "4", "192"]);
  expect(inSight(many, 195, 5).at(-1)?.key).toBe("199");
  expect(inSight(many.slice(0, 3), 0, 5)).toHaveLength(3);
});

it("reads a moment between two points of the traces", () => {
  const set = {
    key: "1",
    front_surface_C: [20, 100, 60],
    rear_surface_C: [20, 60, 50],
    fluid_C: [20, 22, 30],
  };
  const at = (t: number) => momentAt({ t_s: [0, 10, 30], sets: [set] }, t).get("1");
  expect(at(5)).toEqual({ front_C: 60, rear_C: 40, fluid_C: 21 });
  expect(at(0)?.front_C).toBe(20);
  expect(at(30)).toEqual({ front_C: 60, rear_C: 50, fluid_C: 30 });
  expect(at(99)).toEqual({ front_C: 60, rear_C: 50, fluid_C: 30 });
});

it("says when a fluid has to go", () => {
  const fluid = {
    id: 1,
    name: "F",
    standard: "DOT 4",
    dry_C: 230,
    wet_C: 155,
    price: 10,
    in_machine: false,
    now_K: 80,
    fresh_K: 80,
    wet_K: 5,
    boils_months: null as number | null,
    change_months: 8.88,
    limited_by: "heat",
    price_per_year: 13.5,
  };
  expect([stateOf(fluid), changeText(fluid, "50 K")]).toEqual(["fine", "at 8 months"]);
  const old = { ...fluid, change_months: 24, limited_by: "age", boils_months: 40.2 };
  expect(changeText(old, "50 K")).toBe("at 24 months, by age; boils at 40");
  const hot = { ...fluid, change_months: 0, fresh_K: 30, boils_months: 9 };
  expect([stateOf(hot), changeText(hot, "90 °F")]).toEqual([
    "close",
    "under 90 °F even fresh; boils at 9 months",
  ]);
  expect([stateOf({ ...fluid, fresh_K: -1 }), changeText({ ...fluid, fresh_K: -1 }, "50 K")]).toEqual([
    "over",
    "boils even fresh",
  ]);
});
