import { expect, it } from "vitest";
import { bestOf, type Compared, linesOf } from "./differences";

const set = (changes: Partial<Compared> = {}): Compared =>
  ({
    front: { peak_C: 628 },
    rear: { peak_C: 439 },
    lowest_margin_K: 112,
    window_share: 0.94,
    pedal_worst_N: 291,
    fluid_margin_K: 85,
    worn_margin_K: 41,
    cold_mu: 0.3,
    life_events: 52,
    life_hours: 19,
    cost_per_year: 121,
    rotors_price: 186,
    rotor_wear_m: 0.0005,
    noise: 4,
    dust: 4,
    lock_first: "front",
    lock_g: 0.95,
    stress_MPa: 115,
    front_share: 0.62,
    ...changes,
  }) as Compared;
const line = (name: string, system: "metric" | "imperial" = "metric") => {
  const found = linesOf(system, "£").find((entry) => entry.name === name);
  if (!found) throw new Error(name);
  return found;
};

it("marks the best of a line by what is better there", () => {
  const sets = [set(), set({ lowest_margin_K: 150, pedal_worst_N: 374 }), set({ noise: 3 })];
  expect(bestOf(sets, line("To the nearest limit"))).toEqual([false, true, false]);
  expect(bestOf(sets, line("Pedal force at worst"))).toEqual([true, false, true]);
  expect(bestOf(sets, line("Noise, 0 to 5"))).toEqual([false, false, true]);
});

it("marks nothing where all read the same, or where nothing is better than anything", () => {
  const sets = [set(), set({ window_share: 0.9404, lock_g: 0.8 })];
  expect(bestOf(sets, line("Braking in the window"))).toEqual([false, false]);
  expect(bestOf(sets, line("Locks first, dry"))).toEqual([false, false]);
});

it("writes figures in the units in use, and a cost without end as none", () => {
  const text = (name: string, one: Compared, system: "metric" | "imperial" = "metric") => {
    const found = line(name, system);
    return found.text(found.value(one), one);
  };
  expect(text("Hottest ring, front", set(), "imperial")).toBe("1162 °F");
  expect(text("Pads in a year", set({ cost_per_year: 87.98 }))).toBe("£87.98");
  expect(text("Pads in a year", set({ cost_per_year: null }))).toBe("–");
  expect(bestOf([set({ cost_per_year: null }), set()], line("Pads in a year"))).toEqual([false, true]);
  expect(text("Pads last", set({ life_events: 3.21 }))).toBe("3.2 events, 19 h");
});

it("says how far the balance moves from the first set", () => {
  const share = line("Braking in front, firm pedal");
  const text = (one: Compared, first?: Compared) => share.text(share.value(one), one, first);
  expect(text(set(), set())).toBe("62 %");
  expect(text(set({ front_share: 0.66 }), set())).toBe("66 %, +4 points");
  expect(text(set({ front_share: 0.6 }), set())).toBe("60 %, -2 points");
});
