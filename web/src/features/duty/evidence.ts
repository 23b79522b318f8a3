import type { Schemas } from "../../api/client";
import { createDraft } from "../../lib/store";
import { figure, type System, withUnit } from "../../lib/units";

export type Entry = Schemas["CalibrationAsk"]["evidence"][number];

/** Readings entered but not kept yet, per machine; they outlive a reload. */
export const draftStore = createDraft<Record<number, Entry[]>>({}, "evidence");

export function setDraft(machineId: number, entries: Entry[]) {
  draftStore.set({ ...draftStore.get(), [machineId]: entries });
}

export function addEvidence(machineId: number, entry: Entry) {
  setDraft(machineId, [...(draftStore.get()[machineId] ?? []), entry]);
}

/** One piece of evidence in a line. */
export function entryText(entry: Entry, system: System): string {
  if (entry.kind === "logged") {
    return `${entry.axle}, log of ${entry.csv.split("\n").filter((line) => line.trim()).length} lines`;
  }
  const value = withUnit(entry.value_C, "temperature", system);
  const place = entry.part === "caliper" ? `${entry.axle} caliper` : entry.axle;
  if (entry.kind === "paint")
    return `${place}, paint: ${entry.bound === "at_least" ? "at least" : "less than"} ${value}`;
  const since = figure(entry.since_s, "minutes", system);
  return `${place}, ${value}, ${since} min after at ${withUnit(entry.speed_mps, "speed", system)}`;
}

const kinds: Record<Schemas["ResidualOut"]["kind"], string> = {
  pyrometer: "read",
  at_least: "at least",
  less_than: "less than",
  logged: "log, mean",
};

export function kindText(kind: Schemas["ResidualOut"]["kind"]): string {
  return kinds[kind];
}

/** Whether a reading of this axle contradicts its fit: then its range says nothing either. */
export function contradicted(fit: Pick<Schemas["CalibrationOut"], "residuals">, axle: string): boolean {
  return fit.residuals.some((row) => row.suspect && row.axle === axle);
}

/** What a fit found for one axle, in a sentence. */
export function fitText(axle: string, fit: Schemas["AxleFitOut"] | null, against: boolean): string | null {
  if (!fit) return null;
  if (against)
    return `${axle} cooling × ${fit.cooling.toFixed(2)}, plates to caliper × ${fit.backing.toFixed(2)}: readings do not fit, so there is no range`;
  const spread = Math.round(100 * (Math.exp(fit.cooling_sigma) - 1));
  const loose = Math.round(100 * (Math.exp(fit.backing_sigma) - 1));
  return `${axle} cooling × ${fit.cooling.toFixed(2)} (± ${spread} %), plates to caliper × ${fit.backing.toFixed(2)} (± ${loose} %)`;
}
