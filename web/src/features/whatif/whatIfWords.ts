import type { Schemas } from "../../api/client";
import { counted, gearText } from "../../lib/text";
import { figure, type System, unitOf, withUnit } from "../../lib/units";
import { noWhatIf, type WhatIf } from "./whatIf";

/** What is being tried, each change by its name and in a few words, in the order of the sliders. */
export function whatIfParts(
  whatIf: WhatIf,
  levers: Schemas["LeversOut"],
  system: System,
): { name: keyof WhatIf; words: string }[] {
  const parts: { name: keyof WhatIf; words: string }[] = [];
  const say = (name: keyof WhatIf, words: string) => parts.push({ name, words });
  if (whatIf.cooling_factor !== noWhatIf.cooling_factor)
    say("cooling_factor", `cooling × ${whatIf.cooling_factor.toFixed(1)}`);
  if (whatIf.air_C !== null) say("air_C", `air ${withUnit(whatIf.air_C, "temperature", system)}`);
  if (whatIf.extra_mass_kg !== 0) {
    const amount = `${figure(Math.abs(whatIf.extra_mass_kg), "mass", system)} ${unitOf("mass", system).symbol}`;
    say("extra_mass_kg", `${amount} ${whatIf.extra_mass_kg > 0 ? "more" : "less"} on board`);
  }
  if (whatIf.driver_level !== null) say("driver_level", `driver ${whatIf.driver_level}`);
  if (whatIf.repeats !== null) say("repeats", counted(whatIf.repeats, levers.noun));
  if (whatIf.speed_factor !== 1 && levers.speed_mps !== null)
    say("speed_factor", `${withUnit(levers.speed_mps * whatIf.speed_factor, "speed", system)} down the hill`);
  if (whatIf.grade_factor !== 1 && typeof levers.grade === "number")
    say("grade_factor", `${withUnit(levers.grade * whatIf.grade_factor, "grade", system)} slope`);
  if (whatIf.length_factor !== 1 && typeof levers.length_m === "number")
    say(
      "length_factor",
      `${withUnit((levers.length_m * whatIf.length_factor) / 1000, "distance", system, 1)} of it`,
    );
  if (whatIf.gear !== null) say("gear", `gear ${gearText(whatIf.gear)}`);
  if (whatIf.trailer_brake_share !== null)
    say("trailer_brake_share", trailerText(whatIf.trailer_brake_share));
  if (whatIf.fluid_age_months !== null)
    say("fluid_age_months", `fluid ${withUnit(whatIf.fluid_age_months, "someMonths", system)} old`);
  return parts;
}

export function whatIfWords(whatIf: WhatIf, levers: Schemas["LeversOut"], system: System): string[] {
  return whatIfParts(whatIf, levers, system).map(({ words }) => words);
}

/** How much of itself a trailer brakes. */
function trailerText(share: number): string {
  return share === 0 ? "trailer brakes failed" : `trailer brakes ${Math.round(100 * share)} % of itself`;
}
