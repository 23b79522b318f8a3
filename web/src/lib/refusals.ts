// What the server does not take, in the reader's words and units.
import { type Said, saidText } from "./said";
import { fieldText, quantityOfPath } from "./text";
import { figuresText, type Quantity, type System, shownRange, unitOf } from "./units";

/** One refused field, as problem+json names it: bounds in SI, `said` why they are so. */
export type Refusal = {
  field: string;
  value: string;
  allowed: string;
  least?: number | null;
  most?: number | null;
  above?: boolean;
  below?: boolean;
  said?: Said | null;
};
export type Refused = { detail: string; fields: Refusal[] };

/** A bound in the reader's unit, to as many figures as tell it. */
function boundIn(value: number, quantity: Quantity, system: System): string {
  const [shown] = shownRange([value, value], quantity, system);
  const symbol = unitOf(quantity, system).symbol;
  return `${figuresText(Number(shown.toFixed(9)), 5)} ${symbol}`.trim();
}

/** What is allowed: "0.1 to 2 m", "at most 7.1 mm, as measured on 26 Nov 2026". */
export function allowedText(refusal: Refusal, quantity: Quantity, system: System): string {
  const { least, most, above, below, said } = refusal;
  const why = said ? saidText(said, system) : "";
  const low =
    least === null || least === undefined
      ? ""
      : `${above ? "more than" : "at least"} ${boundIn(least, quantity, system)}`;
  const high =
    most === null || most === undefined
      ? ""
      : `${below ? "less than" : "at most"} ${boundIn(most, quantity, system)}`;
  // A bound that is nothing needs no unit: where the other says enough, "at least 0" is not worth a word.
  const worth = low && high && least === 0 && !above ? [high] : [low, high];
  const bounds = worth.filter(Boolean).join(" and ");
  if (!bounds) return why || wordsOf(refusal.allowed);
  return why ? `${bounds}, ${why}` : bounds;
}

/** A refusal with the name of its field before it. */
export function refusalText(
  refusal: Refusal,
  system: System,
  known: { label?: string | undefined; quantity?: Quantity | undefined } = {},
): string {
  const quantity = known.quantity ?? quantityOfPath(refusal.field) ?? "plain";
  const label = known.label ?? fieldText(refusal.field);
  const name = label.slice(0, 1).toUpperCase() + label.slice(1);
  return `${name}: ${allowedText(refusal, quantity, system)}`;
}

/** What a value did to another field, said where the value was typed: "Vane gap is 26 mm, and must be less than 25.6 mm". */
export function otherText(
  refusal: Refusal,
  system: System,
  other: { label: string; quantity: Quantity } | undefined,
): string {
  const label = other?.label ?? fieldText(refusal.field);
  const quantity = other?.quantity ?? quantityOfPath(refusal.field) ?? "plain";
  const value = Number(refusal.value);
  const now = Number.isFinite(value) ? ` is ${boundIn(value, quantity, system)}, and` : "";
  return `${label}${now} must be ${allowedText(refusal, quantity, system)}: correct whichever is wrong`;
}

/** All of a refusal where no field of it is in sight. */
export function refusedText(refused: Refused, system: System): string {
  if (refused.fields.length === 0) return refused.detail;
  return refused.fields
    .map((entry) => {
      const text = refusalText(entry, system);
      // Rules for programs begin with what a value is: "a number", "at least 10 good rows".
      return /^(a|an|at|one|given|text|rows|true) /.test(entry.allowed)
        ? text.replace(": ", " must be ")
        : text;
    })
    .join("; ");
}

const usual: [RegExp, string][] = [
  [/^Input should be a valid (number|integer).*/, "a number"],
  [/^Input should be a finite number.*/, "a number"],
  [/^Input should be a valid date.*/, "a day"],
  [/^Input should be a valid string.*/, "words"],
  [/^Field required$/, "needed"],
  [/^String should have at least 1 character$/, "not empty"],
  [/^String should have at most (\d+) characters?$/, "at most $1 characters"],
];

/** What is allowed where nobody put it in words for a reader. */
function wordsOf(allowed: string): string {
  const found = usual.find(([pattern]) => pattern.test(allowed));
  return found ? allowed.replace(found[0], found[1]) : allowed.replace(/ or null$/, "");
}
