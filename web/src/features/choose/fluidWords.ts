import type { Schemas } from "../../api/client";
import type { State } from "../../ui/basics";

type Fluid = Schemas["FluidChoiceOut"];

/** Over where it boils as it is, close where it cannot keep 50 K for half a year, else fine. */
export function stateOf(fluid: Fluid): State {
  if (fluid.now_K < 0 || fluid.fresh_K < 0) return "over";
  return fluid.change_months < 6 ? "close" : "fine";
}

/** At which age to change a fluid to keep the margin, in the reader's units, and what happens when nobody does. */
export function changeText(fluid: Fluid, margin: string): string {
  if (fluid.fresh_K < 0) return "boils even fresh";
  const late = fluid.boils_months === null ? "" : `; boils at ${Math.floor(fluid.boils_months)}`;
  if (fluid.change_months < 1) return `under ${margin} even fresh${late && `${late} months`}`;
  const why = fluid.limited_by === "age" ? ", by age" : "";
  return `at ${Math.floor(fluid.change_months)} months${why}${late}`;
}
