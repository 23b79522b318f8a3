// Units live here and nowhere else: SI on the wire and in state, people's units on the screen.
import table from "../../../src/thermaxis/core/data/quantities.json";

export type System = "metric" | "imperial";

// Decimals, or significant figures where a value may be of any size; `below_ten` decimals of smaller ones.
type Unit = {
  symbol: string;
  factor: number;
  offset?: number;
  digits?: number;
  figures?: number;
  below_ten?: number;
};
type Kind = { metric: Unit; imperial: Unit; also?: Unit[] };

// One table for the page and for Python: core/data/quantities.json.
export const kinds = table satisfies Record<string, Kind>;

export type Quantity = keyof typeof kinds;

export function unitOf(quantity: Quantity, system: System): Unit {
  return kinds[quantity][system];
}

/** A value in the user's unit, without the unit. */
export function figure(value: number, quantity: Quantity, system: System, digits?: number): string {
  const unit = unitOf(quantity, system);
  const shown = value * unit.factor + (unit.offset ?? 0);
  const small = Math.abs(shown) < 10 ? unit.below_ten : undefined;
  const places = digits ?? small ?? unit.digits;
  const text = places === undefined ? figuresText(shown, unit.figures ?? 4) : shown.toFixed(places);
  // "-0" would say that something moved when it did not.
  if (Number(text) === 0) return text.replace("-", "");
  return quantity === "distance" && Math.abs(shown) >= 10_000 ? grouped(text) : text;
}

/** To so many significant figures, without zeros at the end. */
export function figuresText(value: number, figures: number): string {
  const text = value.toPrecision(figures);
  // Numbers are spelled out however large or small.
  if (!text.includes("e")) return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
  const place = Number(text.split("e")[1]);
  return place > 0
    ? BigInt(Number(text)).toString()
    : Number(text)
        .toFixed(figures - 1 - place)
        .replace(/\.?0+$/, "");
}

/** To two significant figures, rounded to the side on which a bound still holds. */
export function boundText(value: number, way: "up" | "down"): string {
  if (value === 0) return "0";
  const place = Math.floor(Math.log10(Math.abs(value))) - 1;
  const scaled = value / 10 ** place;
  const whole = way === "up" ? Math.ceil(scaled - 1e-6) : Math.floor(scaled + 1e-6);
  return figuresText(whole * 10 ** place, 2);
}

/** Thousands told apart by a narrow space, which nobody takes for a decimal mark. */
export function grouped(text: string): string {
  return text.replace(/\B(?=(\d{3})+(?!\d))(?<!\.\d*)/g, "\u202f");
}

/** A range of SI values in the user's unit, as plain numbers, for an axis with round figures. */
export function shownRange(
  [low, high]: [number, number],
  quantity: Quantity,
  system: System,
): [number, number] {
  const unit = unitOf(quantity, system);
  const offset = unit.offset ?? 0;
  return [low * unit.factor + offset, high * unit.factor + offset];
}

export function withUnit(value: number, quantity: Quantity, system: System, digits?: number): string {
  return `${figure(value, quantity, system, digits)} ${unitOf(quantity, system).symbol}`.trim();
}

export type Parsed = { ok: true; value: number } | { ok: false; message: string };

const number = String.raw`[-+]?(?:\d+(?:,\d{3})*(?:[.,]\d+)?|[.,]\d+)`;
const pattern = new RegExp(String.raw`^\s*(?:(?:(\d+)\s+)?(\d+)\s*/\s*(\d+)|(${number}))\s*(.*?)\s*$`, "i");

/** Whether commas tell thousands apart: "12,345" in a unit nobody writes decimals of, or more than one of them. */
function thousands(plain: string, unit: Unit | undefined): boolean {
  if (/^[-+]?\d{1,3}(,\d{3}){2,}(\.\d+)?$|^[-+]?\d{1,3}(,\d{3})+\.\d+$/.test(plain)) return true;
  return unit?.digits === 0 && /^[-+]?[1-9]\d{0,2},\d{3}$/.test(plain);
}

/** Read what was typed, in any unit of the quantity ("0.43 in", "9/32 in", "11 mm", "11"), to SI. */
export function parse(text: string, quantity: Quantity, system: System): Parsed {
  const kind: Kind = kinds[quantity];
  // Spaces between digits tell thousands apart, whichever space it is; but "1 1/8" is one and an eighth.
  text = text.replace(/(?<=\d)[\s\u202f\u00a0](?=\d{3}(\D|$))(?!\d+\s*\/)/g, "");
  const known = [kind[system], kind.metric, kind.imperial, ...(kind.also ?? [])];
  const match = pattern.exec(text);
  const example = `a number, in ${[...new Set(known.map((unit) => unit.symbol || "no unit"))].join(", ")}`;
  if (!match) return { ok: false, message: `Type ${example}.` };
  const [, whole, top, bottom, plain, symbol] = match;
  const unit = symbol
    ? known.find((option) => option.symbol.toLowerCase() === symbol.toLowerCase().replace("deg", "°"))
    : kind[system];
  const typed =
    plain === undefined
      ? Number(whole ?? 0) + Number(top) / Number(bottom)
      : Number(thousands(plain, unit) ? plain.replaceAll(",", "") : plain.replace(",", "."));
  if (!unit) return { ok: false, message: `"${symbol}" is not a unit for this: type ${example}.` };
  if (!Number.isFinite(typed)) return { ok: false, message: `Type ${example}.` };
  return { ok: true, value: (typed - (unit.offset ?? 0)) / unit.factor };
}
