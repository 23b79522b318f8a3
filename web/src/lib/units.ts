// Units live here and nowhere else: SI on the wire and in state, people's units on the screen.

export type System = "metric" | "imperial";

type Unit = { symbol: string; factor: number; offset?: number; digits: number };
type Kind = { metric: Unit; imperial: Unit; also?: Unit[] };

const u = (symbol: string, factor: number, digits: number, offset = 0): Unit => ({
  symbol,
  factor,
  digits,
  offset,
});

export const kinds = {
  temperature: { metric: u("°C", 1, 0), imperial: u("°F", 1.8, 0, 32) },
  temperatureChange: { metric: u("K", 1, 0), imperial: u("°F", 1.8, 0) },
  speed: { metric: u("km/h", 3.6, 0), imperial: u("mph", 2.236936, 0), also: [u("m/s", 1, 1)] },
  thickness: {
    metric: u("mm", 1000, 1),
    imperial: u("in", 39.370079, 3),
    also: [u("cm", 100, 2), u("m", 1, 4)],
  },
  // What a gauge reads: thicknesses, lips, runout.
  reading: {
    metric: u("mm", 1000, 2),
    imperial: u("in", 39.370079, 4),
    also: [u("µm", 1e6, 0), u("cm", 100, 3), u("m", 1, 5)],
  },
  bore: { metric: u("mm", 1000, 2), imperial: u("in", 39.370079, 3), also: [u("cm", 100, 2), u("m", 1, 4)] },
  // A radius on the wire, a diameter in the hand.
  diameter: { metric: u("mm", 2000, 1), imperial: u("in", 78.740157, 3), also: [u("cm", 200, 2)] },
  volume: { metric: u("cm³", 1e6, 2), imperial: u("in³", 61023.744, 3), also: [u("ml", 1e6, 2)] },
  decel: { metric: u("g", 1 / 9.80665, 2), imperial: u("g", 1 / 9.80665, 2), also: [u("m/s²", 1, 2)] },
  seconds: { metric: u("s", 1, 0), imperial: u("s", 1, 0), also: [u("min", 1 / 60, 1), u("h", 1 / 3600, 2)] },
  grade: { metric: u("%", 100, 1), imperial: u("%", 100, 1) },
  length: {
    metric: u("m", 1, 3),
    imperial: u("ft", 3.28084, 2),
    also: [u("mm", 1000, 0), u("cm", 100, 1), u("in", 39.370079, 1)],
  },
  altitude: { metric: u("m", 1, 0), imperial: u("ft", 3.28084, 0) },
  distance: { metric: u("km", 1, 0), imperial: u("mi", 0.621371, 0) },
  mass: { metric: u("kg", 1, 0), imperial: u("lb", 2.204623, 0) },
  force: { metric: u("N", 1, 0), imperial: u("lbf", 0.224809, 0) },
  pressure: {
    metric: u("MPa", 1e-6, 2),
    imperial: u("psi", 1.450377e-4, 0),
    also: [u("bar", 1e-5, 1), u("Pa", 1, 0)],
  },
  torque: { metric: u("N m", 1, 0), imperial: u("lbf ft", 0.737562, 0) },
  area: {
    metric: u("cm²", 1e4, 2),
    imperial: u("in²", 1550.0031, 2),
    also: [u("mm²", 1e6, 0), u("cm2", 1e4, 2), u("in2", 1550.0031, 2)],
  },
  dragArea: { metric: u("m²", 1, 2), imperial: u("ft²", 10.76391, 2), also: [u("m2", 1, 2)] },
  energy: { metric: u("MJ", 1e-6, 2), imperial: u("MJ", 1e-6, 2) },
  power: { metric: u("kW", 1e-3, 0), imperial: u("hp", 0.00134102, 0) },
  ratio: { metric: u("", 1, 2), imperial: u("", 1, 2), also: [u("%", 100, 0)] },
  friction: { metric: u("", 1, 3), imperial: u("", 1, 3) },
  count: { metric: u("", 1, 0), imperial: u("", 1, 0) },
  percent: { metric: u("%", 100, 0), imperial: u("%", 100, 0), also: [u("share", 1, 2)] },
  minutes: { metric: u("min", 1 / 60, 1), imperial: u("min", 1 / 60, 1), also: [u("s", 1, 0)] },
  months: { metric: u("months", 1, 0), imperial: u("months", 1, 0), also: [u("years", 1 / 12, 1)] },
  heatCapacity: { metric: u("J/kgK", 1, 0), imperial: u("J/kgK", 1, 0) },
  conductance: { metric: u("W/K", 1, 1), imperial: u("W/K", 1, 1) },
} satisfies Record<string, Kind>;

export type Quantity = keyof typeof kinds;

export function unitOf(quantity: Quantity, system: System): Unit {
  return kinds[quantity][system];
}

/** A value in the user's unit, without the unit. */
export function figure(value: number, quantity: Quantity, system: System, digits?: number): string {
  const unit = unitOf(quantity, system);
  const shown = value * unit.factor + (unit.offset ?? 0);
  const places = digits ?? unit.digits;
  const text = shown.toFixed(places);
  // "-0" would say that something moved when it did not.
  if (Number(text) === 0) return text.replace("-", "");
  return quantity === "distance" && Math.abs(shown) >= 10_000 ? grouped(text) : text;
}

/** Thousands told apart by a narrow space, which nobody takes for a decimal mark. */
function grouped(text: string): string {
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
