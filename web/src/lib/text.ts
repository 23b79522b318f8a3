import { formatISO, parseISO } from "date-fns";
import { type Quantity, type System, shownRange, unitOf, withUnit } from "./units";

/** A number to two significant figures: more than that no estimate may claim. */
export function roughText(value: number): string {
  return Number(value.toPrecision(2)).toString();
}

const days = new Intl.DateTimeFormat(undefined, { day: "numeric", month: "long", year: "numeric" });

/** A day, or the day of a moment, as it is where the reader is, in the reader's own order. */
export function dateText(iso: string | null | undefined): string {
  if (!iso) return "more than ten years away";
  return days.format(parseISO(iso));
}

export function hoursText(hours: number): string {
  if (hours < 1) return `${Math.round(hours * 60)} min`;
  return hours < 20 ? `${hours.toFixed(1)} h` : `${Math.round(hours)} h`;
}

/** So many events as one says it: "due now", "1 event", "2.5 events", "no wear". */
export function eventsText(events: number): string {
  if (events >= 99998) return "no wear to speak of";
  if (events < 0.05) return "due now";
  return withUnit(events, "someEvents", "metric");
}

export function clockText(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** How times stand on an axis that ends at `end` seconds: minutes and seconds, or hours and minutes. */
export function axisClock(end: number): { format: (seconds: number) => string; name: string } {
  if (end <= 2 * 3600) return { format: clockText, name: "minutes:seconds" };
  return { format: (seconds) => clockText(seconds / 60), name: "hours:minutes" };
}

/** "front.piston_area_m2" as a person says it. */
export function fieldText(path: string): string {
  const unit = /_(kg|m2|m|mps2|mps|N|Pa|C|W|s|km|W_per_K|J_per_kgK|W_per_mK|mm3_per_MJ|kg_per_m3)$/;
  return path
    .replace(/\[(\d+)\]/g, (_, index: string) => ` ${Number(index) + 1}`)
    .replace(/^vehicle\.|^hydraulics\./, "")
    .replace(/^environment\./, "air ")
    .replaceAll(".", " ")
    .replace(unit, "")
    .replaceAll("_", " ");
}

const unitsOfFields: [RegExp, Quantity][] = [
  [/(drag|lift)_area_m2$/, "dragArea"],
  [/_m2$/, "area"],
  [/^vehicle\..*_m$/, "length"],
  [/_m$/, "bore"],
  [/_kg$/, "mass"],
  [/_N$/, "force"],
  [/_Pa$/, "pressure"],
  [/_C$/, "temperature"],
  [/_W_per_K$/, "conductance"],
];
// What a field holds by the end of its name, where no box says so.
const unitsOfAnswers: [RegExp, Quantity][] = [
  [/(length_m|radius_m|height_m|overhang_m|altitude_m|wheelbase_m)$/, "length"],
  [/_mps2$/, "decel"],
  [/_mps$/, "speed"],
  [/_km$/, "distance"],
  [/_s$/, "seconds"],
  [/_W$/, "power"],
  [/_months$/, "months"],
  [/(grade|share|fraction|efficiency)$/, "grade"],
];

/** What a field's number is, by its name; undefined where the name does not say. */
export function quantityOfPath(path: string): Quantity | undefined {
  const known = /rotor\.|pad\./.test(path) ? unitsOfFields : [...unitsOfAnswers, ...unitsOfFields];
  return known.find(([pattern]) => pattern.test(path))?.[1];
}
// Material data have no unit of daily life.
const unitsOfMaterial: [RegExp, string][] = [
  [/_W_per_mK$/, "W/mK"],
  [/_mm3_per_MJ$/, "mm³/MJ"],
];

/** The value of a field to four figures, in the reader's unit. */
export function fieldValueText(path: string, value: number, system: System): string {
  const fourFigures = (shown: number, unit: string) => `${Number(shown.toPrecision(4))} ${unit}`.trim();
  const quantity = unitsOfFields.find(([pattern]) => pattern.test(path))?.[1];
  if (quantity)
    return fourFigures(shownRange([value, value], quantity, system)[0], unitOf(quantity, system).symbol);
  return fourFigures(value, unitsOfMaterial.find(([pattern]) => pattern.test(path))?.[1] ?? "");
}

const changes: Record<string, [Quantity, number]> = {
  K: ["temperatureChange", 1],
  N: ["force", 1],
  "N m": ["torque", 1],
  MPa: ["pressure", 1e6],
  mm: ["bore", 1e-3],
  µm: ["wearDepth", 1e-6],
  "µm per event": ["wearDepth", 1e-6],
};

/** A unit of the core's numbers as the reader's, and what a change in the one is in the other. */
export function changeIn(unit: string, system: System): { unit: string; of: (change: number) => number } {
  const [quantity, si] = changes[unit] ?? [];
  if (!quantity || !si) return { unit, of: (change) => change };
  const shown = unitOf(quantity, system);
  return { unit: shown.symbol, of: (change) => change * si * shown.factor };
}

/** A change with its sign, to two figures. */
export function twoFiguresText(change: number): string {
  const text = Number(change.toPrecision(2)).toString();
  return change > 0 ? `+${text}` : text;
}

/** A share of draws in words: no draw at all still leaves a chance under one in the number of draws. */
export function chance(probability: number, draws: number): string {
  if (probability <= 0) return `under ${Math.ceil(100 / draws)} %`;
  if (probability >= 1) return `over ${Math.floor(100 - 100 / draws)} %`;
  return `${Math.max(1, Math.round(100 * probability))} %`;
}

/** A gear of the descent, "one_lower", as a person says it. */
export function gearText(gear: string): string {
  const turns = turnsFaster[gear];
  return turns ? `${gear.replaceAll("_", " ")}, engine × ${turns}` : gear;
}

// One step between gears turns the engine about 1.4 times as fast, two twice as fast (estimate).
const turnsFaster: Record<string, string> = { one_lower: "1.4", two_lower: "2" };

/** Today where the reader is, as the API takes a date. */
export function todayIso(): string {
  return formatISO(new Date(), { representation: "date" });
}

/** Decimals of a figure and of its range: as many as tell the range's ends apart, and no more than it has. */
export function decimalsOf(spread: number): number {
  return spread > 0 ? Math.min(4, Math.max(1, Math.ceil(0.3 - Math.log10(spread)))) : 2;
}

/** A sentence begins with a capital, whatever it begins with. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** "1 rotor", "2 rotors". */
export const counted = (count: number, noun: string) => `${count} ${noun}${count === 1 ? "" : "s"}`;
