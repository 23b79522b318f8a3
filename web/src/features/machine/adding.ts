import type { Schemas } from "../../api/client";
import { createDraft } from "../../lib/store";
import { figure, type System, unitOf } from "../../lib/units";
import type { Usual } from "../../ui/NumberField";
import { allFields, type Field } from "./fields";
import type { Numbers } from "./queries";

export type Draft = {
  name: string;
  owner: string;
  note: string;
  vehicle_class: string;
  known: Numbers;
  duty_id: number | null;
  /** The pads that are on it, where anybody knows. */
  pads?: string;
};
export const emptyDraft: Draft = {
  name: "",
  owner: "",
  note: "",
  vehicle_class: "hatch",
  known: {},
  duty_id: null,
};

/** What has been typed of a machine that is not added yet; it outlives a reload. */
export const draftStore = createDraft<Draft>(emptyDraft, "adding");

type Estimates = Record<string, Schemas["EstimateOut"]>;

/** The fields a class has something to say about; the others come with the machine. */
export function fieldsFor(estimates: Estimates, known: Numbers, fields: Field[] = allFields): Field[] {
  return fields.filter(
    (field) =>
      field.path in known || (estimates[field.path]?.value ?? null) !== null || extra.has(field.path),
  );
}

const extra = new Set([
  "environment.air_C",
  "environment.altitude_m",
  "fluid.fluid_age_months",
  "log.odometer_km",
  "trailer.mass_kg",
  "trailer.brake_share",
  "trailer.nose_load_N",
  "trailer.hitch_height_m",
  "trailer.hitch_overhang_m",
]);

/** What a class has of a number: outside half or twice of it a slip is likelier. */
export function usualOf(
  field: Field,
  estimate: Schemas["EstimateOut"] | undefined,
  of: string,
): Usual | undefined {
  if (estimate?.low === null || estimate?.high === null || !estimate) return undefined;
  // Where a class has one value for all, nobody knows how far others go.
  return estimate.low < estimate.high && askable.test(field.path)
    ? { low: estimate.low, high: estimate.high, of }
    : undefined;
}

// Sizes and masses of a machine; how it is driven and cooled is anybody's own.
const askable = /_(kg|m|m2|N|W|mps)$|pedal_ratio$|booster_gain$/;

/** "by its class 3.8 to 5.2" in the user's units; empty where the class has no spread. */
export function aboutText(
  field: Field,
  estimate: Schemas["EstimateOut"] | undefined,
  system: System,
): string {
  if (!estimate || estimate.value === null) return "";
  if (estimate.low === null || estimate.high === null || estimate.low === estimate.high) return "";
  const two = (value: number) => rough(value, field, system);
  const unit = unitOf(field.quantity, system).symbol;
  return `by its class ${two(estimate.low)} to ${two(estimate.high)} ${unit}`.trim();
}

/** An estimate in the user's unit, to no more than two figures. */
export function rough(value: number, field: Field, system: System): string {
  const shown = Number(figure(value, field.quantity, system, 6));
  return Number(shown.toPrecision(2)).toString();
}

/** Numbers that were typed, without the boxes that were emptied again. */
export function typedOnly(known: Numbers): Record<string, number> {
  return Object.fromEntries(
    Object.entries(known).filter((entry): entry is [string, number] => entry[1] !== null),
  );
}
