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
  /** What one of it is called, where the symbol is a word. */
  one?: string;
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
  const full = places === undefined ? figuresText(shown, unit.figures ?? 4) : shown.toFixed(places);
  // What is counted has no tenths where there are none.
  const text = unit.one ? full.replace(/\.0+$/, "") : full;
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
  const text = figure(value, quantity, system, digits);
  return `${text} ${symbolFor(text, quantity, system)}`.trim();
}

/** The unit's symbol beside a figure: "1 event", "2 events". */
export function symbolFor(text: string, quantity: Quantity, system: System): string {
  const unit = unitOf(quantity, system);
  return text === "1" ? (unit.one ?? unit.symbol) : unit.symbol;
}

export type Parsed =
  | { ok: true; value: number }
  /** `either`: the text may be read two ways, and only who typed it knows which. */
  | { ok: false; message: string; either?: [number, number] };

const number = String.raw`[-+]?(?:\d[\d.,']*|[.,]\d+)`;
const pattern = new RegExp(String.raw`^\s*(?:(?:(\d+)\s+)?(\d+)\s*/\s*(\d+)|(${number}))\s*(.*?)\s*$`, "i");

/** The decimal mark where the reader is. */
export const readersMark: "." | "," =
  new Intl.NumberFormat().formatToParts(1.5).find((part) => part.type === "decimal")?.value === ","
    ? ","
    : ".";

/** Digits with marks between them: a number, two where it may be read two ways, or none. */
function readDigits(plain: string, mark: "." | ",", whole: boolean): number[] {
  // An apostrophe tells thousands apart ("1'080"); in 5'10 it is feet, which nobody may take for 510.
  if (plain.includes("'") && !/^[-+]?\d{1,3}('\d{3})+([.,]\d*)?$/.test(plain)) return [];
  const digits = plain.replaceAll("'", "");
  const marks = digits.replace(/[^.,]/g, "");
  const group = /^[-+]?\d{1,3}(?:[.,]\d{3})+$/;
  const without = (sign: string) => digits.replaceAll(sign, "");
  if (marks === "") return [Number(digits)];
  const [first, last] = [marks[0] ?? "", marks[marks.length - 1] ?? ""];
  if (new Set(marks).size === 2) {
    // "1,234.5" and "1.234,5": the last mark is the decimal one, the others tell thousands apart.
    const [before = "", after = ""] = digits.split(last);
    const fits = marks.indexOf(last) === marks.length - 1 && group.test(before);
    return fits ? [Number(`${before.replaceAll(first, "")}.${after || "0"}`)] : [];
  }
  if (marks.length > 1) return group.test(digits) ? [Number(without(first))] : [];
  const decimal = Number(digits.replace(first, "."));
  // "0,500", ",5" and "1,08" are read one way; "1,080" may be a thousand and eighty.
  if (!/^[-+]?[1-9]\d{0,2}[.,]\d{3}$/.test(digits)) return [decimal];
  if (first === mark && !whole) return [decimal];
  if (first !== mark && whole) return [Number(without(first))];
  return [Number(without(first)), decimal];
}

/** Read what was typed, in any unit of the quantity ("0.43 in", "9/32 in", "11 mm", "11"), to SI. */
export function parse(
  text: string,
  quantity: Quantity,
  system: System,
  mark: "." | "," = readersMark,
): Parsed {
  const kind: Kind = kinds[quantity];
  text = text.replaceAll("\u2212", "-").replaceAll("\u2019", "'");
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
  if (!unit) return { ok: false, message: `"${symbol}" is not a unit for this: type ${example}.` };
  const typed =
    plain === undefined
      ? [Number(whole ?? 0) + Number(top) / Number(bottom)]
      : readDigits(plain, mark, unit.digits === 0);
  const found = typed.map((value) => (value - (unit.offset ?? 0)) / unit.factor);
  const [first, second] = found;
  if (first === undefined || !found.every(Number.isFinite)) return { ok: false, message: `Type ${example}.` };
  if (second === undefined) return { ok: true, value: first };
  return {
    ok: false,
    message: `${`${plain} can be read two ways, ${typed.map(String).join(" or ")} ${unit.symbol}`.trim()}: which is meant?`,
    either: [first, second],
  };
}
