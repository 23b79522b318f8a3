import type { Schemas } from "../../api/client";
import { gearText } from "../../lib/text";
import { figure, type System, unitOf, withUnit } from "../../lib/units";
import { noWhatIf, type WhatIf } from "./whatIf";

/** What is being tried, each change in a few words, in the order of the sliders. */
export function whatIfWords(whatIf: WhatIf, levers: Schemas["LeversOut"], system: System): string[] {
  const words: string[] = [];
  if (whatIf.cooling_factor !== noWhatIf.cooling_factor)
    words.push(`cooling × ${whatIf.cooling_factor.toFixed(1)}`);
  if (whatIf.air_C !== null) words.push(`air ${withUnit(whatIf.air_C, "temperature", system)}`);
  if (whatIf.extra_mass_kg !== 0) {
    const amount = `${figure(Math.abs(whatIf.extra_mass_kg), "mass", system)} ${unitOf("mass", system).symbol}`;
    words.push(`${amount} ${whatIf.extra_mass_kg > 0 ? "more" : "less"} on board`);
  }
  if (whatIf.driver_level !== null) words.push(`driver ${whatIf.driver_level}`);
  if (whatIf.repeats !== null)
    words.push(`${whatIf.repeats} ${levers.noun}${whatIf.repeats === 1 ? "" : "s"}`);
  if (whatIf.speed_factor !== 1 && levers.speed_mps !== null)
    words.push(`${withUnit(levers.speed_mps * whatIf.speed_factor, "speed", system)} down the hill`);
  if (whatIf.gear !== null) words.push(`gear ${gearText(whatIf.gear)}`);
  if (whatIf.fluid_age_months !== null) words.push(`fluid ${whatIf.fluid_age_months} months old`);
  return words;
}
