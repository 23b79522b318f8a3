import type { Schemas } from "../../api/client";
import { figure, type System, unitOf } from "../../lib/units";
import { rough } from "./adding";
import { fieldOf } from "./fields";

type Ends = readonly number[];
export type Move = Pick<Schemas["MoveOut"], "field" | "low" | "high"> & {
  rotor_K: Ends;
  pedal_N: Ends;
  fluid_K: Ends;
};

/** "3.8 to 5.2: hottest rotor -8 to +12 K, pedal left -40 to +35 N" in the user's units; what stays put is left out. */
export function movesText(move: Move, system: System): string {
  const field = fieldOf(move.field);
  if (!field) return "";
  const parts = [
    span("hottest rotor", move.rotor_K, "temperatureChange", system, 1),
    span("pedal left", move.pedal_N, "force", system, 3),
    span("fluid margin", move.fluid_K, "temperatureChange", system, 1),
  ].filter(Boolean);
  const range = `${rough(move.low, field, system)} to ${rough(move.high, field, system)}`;
  return `${range}: ${parts.join(", ") || "moves nothing here"}`;
}

function span(
  name: string,
  ends: Ends,
  quantity: "temperatureChange" | "force",
  system: System,
  least: number,
): string {
  const [low, high] = [Math.min(...ends, 0), Math.max(...ends, 0)];
  if (Math.max(-low, high) < least) return "";
  const two = (value: number) => {
    const shown = Number(Number(figure(value, quantity, system, 3)).toPrecision(2));
    return shown > 0 ? `+${shown}` : `${shown}`;
  };
  return `${name} ${two(low)} to ${two(high)} ${unitOf(quantity, system).symbol}`;
}
