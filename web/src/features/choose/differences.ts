// What differs between sets put side by side, line by line.
import type { Schemas } from "../../api/client";
import { figure, type System, unitOf, withUnit } from "../../lib/units";

export type Compared = Schemas["ComparedSetOut"];
type Line = {
  name: string;
  /** What its number is called where it can be opened. */
  topic?: string;
  value: (set: Compared) => number;
  /** Whether more or less of it is better; some lines only inform. */
  better: "more" | "less" | null;
  text: (value: number, set: Compared, first?: Compared) => string;
};

export function linesOf(system: System, currency: string): Line[] {
  const degrees = (value: number) => withUnit(value, "temperature", system);
  const kelvin = (value: number) => withUnit(value, "temperatureChange", system);
  const money = (value: number) =>
    Number.isFinite(value) ? `${currency}${value.toFixed(value < 100 ? 2 : 0)}` : "–";
  return [
    {
      name: "Hottest ring, front",
      topic: "peak_front",
      value: (set) => set.front.peak_C,
      better: "less",
      text: degrees,
    },
    {
      name: "Hottest ring, rear",
      topic: "peak_rear",
      value: (set) => set.rear.peak_C,
      better: "less",
      text: degrees,
    },
    {
      name: "To the nearest limit",
      topic: "margin",
      value: (set) => set.lowest_margin_K,
      better: "more",
      text: kelvin,
    },
    {
      name: "Braking in the window",
      topic: "window_share",
      value: (set) => set.window_share,
      better: "more",
      text: (value) => `${(100 * value).toFixed(0)} %`,
    },
    {
      name: "Pedal force at worst",
      topic: "pedal_worst",
      value: (set) => set.pedal_worst_N,
      better: "less",
      text: (value) => withUnit(value, "force", system),
    },
    {
      name: "Fluid to boil, new pads",
      topic: "fluid_margin",
      value: (set) => set.fluid_margin_K,
      better: "more",
      text: kelvin,
    },
    {
      name: "Fluid to boil, worn pads",
      topic: "worn_margin",
      value: (set) => set.worn_margin_K ?? Number.NaN,
      better: "more",
      // Nobody asks how worn pads do where new ones are out already.
      text: (value) => (Number.isNaN(value) ? "not asked" : kelvin(value)),
    },
    {
      name: "Cold friction",
      topic: "cold_mu",
      value: (set) => set.cold_mu,
      better: "more",
      text: (value) => value.toFixed(2),
    },
    {
      name: "Pads last",
      topic: "life_events",
      value: (set) => set.life_events,
      better: "more",
      text: (value, set) => `${value.toFixed(value < 10 ? 1 : 0)} events, ${set.life_hours.toFixed(0)} h`,
    },
    {
      name: "Pads in a year",
      topic: "cost_per_year",
      value: (set) => set.cost_per_year ?? Number.POSITIVE_INFINITY,
      better: "less",
      text: money,
    },
    { name: "Rotors or set-up, to buy", value: (set) => set.rotors_price, better: "less", text: money },
    {
      name: "Off a rotor with a set",
      value: (set) => set.rotor_wear_m,
      better: "less",
      text: (value) => `${figure(value, "reading", system)} ${unitOf("reading", system).symbol}, estimate`,
    },
    { name: "Noise, 0 to 5", value: (set) => set.noise, better: "less", text: String },
    { name: "Dust, 0 to 5", value: (set) => set.dust, better: "less", text: String },
    {
      name: "Locks first, dry",
      topic: "lock",
      value: (set) => set.lock_g,
      better: null,
      text: (value, set) => `${set.lock_first}, at ${value.toFixed(2)} g`,
    },
    {
      name: "Braking in front, firm pedal",
      topic: "front_share",
      value: (set) => set.front_share,
      better: null,
      text: (value, _, first) => {
        const shift = 100 * (value - (first?.front_share ?? value));
        const moved = Math.abs(shift) < 0.5 ? "" : `, ${shift > 0 ? "+" : ""}${shift.toFixed(0)} points`;
        return `${(100 * value).toFixed(0)} %${moved}`;
      },
    },
    {
      name: "Thermal stress",
      topic: "stress",
      value: (set) => set.stress_MPa,
      better: "less",
      text: (value) => `${value.toFixed(0)} MPa`,
    },
  ];
}

/** Which sets are best in a line: none where all are equal or nothing is better than anything. */
export function bestOf(sets: Compared[], line: Line): boolean[] {
  const shown = sets.map((set) => line.text(line.value(set), set));
  if (line.better === null || new Set(shown).size === 1) return sets.map(() => false);
  const values = sets.map(line.value);
  const best = line.better === "more" ? Math.max(...values) : Math.min(...values);
  const text = shown[values.indexOf(best)];
  // Two that read the same are equally good, whatever stands behind the last digit.
  return shown.map((entry) => entry === text);
}
