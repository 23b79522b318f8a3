import type { Schemas } from "../../api/client";
import { figure, type Quantity, type System, withUnit } from "../../lib/units";

type Figures = Schemas["SetupFiguresOut"];
export type Row = { name: string; before: string; after: string; change: string };

const plus = (text: string) => (text.startsWith("-") || Number(text) === 0 ? text : `+${text}`);

/** The table of a comparison: every figure with its unit, and the change. */
export function rows({ before, after }: Schemas["CompareOut"], system: System): Row[] {
  function number(
    name: string,
    pick: (side: Figures) => number | null,
    quantity: Quantity,
    digits?: number,
  ): Row {
    const [a, b] = [pick(before), pick(after)];
    const text = (value: number | null) =>
      value === null ? "not reached" : withUnit(value, quantity, system, digits);
    const change = a === null || b === null ? "" : changeText(b - a, quantity, system, digits);
    return { name, before: text(a), after: text(b), change };
  }
  const lock = (side: Figures, road: "dry" | "wet") =>
    side[road].first_axle === "none"
      ? `none, ${side[road].decel_g.toFixed(2)} g`
      : `${side[road].first_axle}, ${side[road].decel_g.toFixed(2)} g`;
  const words = (name: string, pick: (side: Figures) => string): Row => ({
    name,
    before: pick(before),
    after: pick(after),
    change: pick(before) === pick(after) ? "" : "changed",
  });
  const room = (axle: "front" | "rear") =>
    before[`${axle}_room_m`] === null
      ? []
      : [number(`Caliper to wheel, ${axle}`, (side) => side[`${axle}_room_m`], "thickness")];
  return [
    number("Torque, one front rotor", (side) => side.front_torque_Nm, "torque"),
    number("Torque, one rear rotor", (side) => side.rear_torque_Nm, "torque"),
    number("Pedal force for 0.8 g", (side) => side.pedal_for_wanted_N, "force"),
    number("Pedal travel to the pads", (side) => side.pedal_travel_m, "thickness"),
    number("Fluid it takes", (side) => side.fluid_m3, "volume"),
    number("Braking done by the front", (side) => side.front_share, "grade"),
    words("First to lock, dry", (side) => lock(side, "dry")),
    words("First to lock, wet", (side) => lock(side, "wet")),
    number("Front ring's peak on this duty", (side) => side.front_peak_C, "temperature"),
    number("Rear ring's peak on this duty", (side) => side.rear_peak_C, "temperature"),
    ...room("front"),
    ...room("rear"),
  ];
}

function changeText(change: number, quantity: Quantity, system: System, digits?: number): string {
  // A difference of temperatures has no zero point to add.
  const kind = quantity === "temperature" ? "temperatureChange" : quantity;
  return plus(figure(change, kind, system, digits));
}
