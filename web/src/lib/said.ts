import {
  boundText,
  figure,
  figuresText,
  grouped,
  kinds,
  type Quantity,
  type System,
  shownRange,
  symbolFor,
} from "./units";

// As `core/said.py` describes it; `formats/units.py` is its twin, and both are held to the same texts.
export type Said = { template: string; values: Record<string, number | string | Said | Said[]> };

const place = /\{(\w+)(?::(\w+))?(?:\|(\w+))?\}/g;
const joins: Record<string, string> = {
  and: " and ",
  commas: ", ",
  semicolons: "; ",
  spaces: " ",
  plus: " + ",
};

/** Words without a quantity, where a sentence is expected. */
export function verbatim(text: string): Said {
  return { template: "{text}", values: { text } };
}

/** A sentence with its values in the reader's units. */
export function saidText(said: Said, system: System): string {
  return said.template.replace(
    place,
    (_, name: string, kind: string | undefined, way: string | undefined) => {
      const value = said.values[name];
      if (typeof value === "number") return filled(value, quantityOf(kind), way, system);
      if (Array.isArray(value))
        return value.map((part) => saidText(part, system)).join(joins[way ?? ""] ?? " ");
      const text = typeof value === "object" ? saidText(value, system) : (value ?? "");
      return way === "capital" ? text.slice(0, 1).toUpperCase() + text.slice(1) : text;
    },
  );
}

function quantityOf(kind: string | undefined): Quantity {
  return kind !== undefined && kind in kinds ? (kind as Quantity) : "plain";
}

function filled(value: number, quantity: Quantity, way: string | undefined, system: System): string {
  const text = numberText(value, quantity, way, system);
  const symbol = symbolFor(text, quantity, system);
  return way === "bare" || !symbol ? text : `${text} ${symbol}`;
}

function numberText(value: number, quantity: Quantity, way: string | undefined, system: System): string {
  if (way !== "two" && way !== "up" && way !== "down") return figure(value, quantity, system);
  const [shown] = shownRange([value, value], quantity, system);
  const text = way === "two" ? figuresText(shown, 2) : boundText(shown, way);
  return quantity === "distance" && Math.abs(shown) >= 10_000 ? grouped(text) : text;
}
