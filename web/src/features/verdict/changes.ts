import type { Schemas } from "../../api/client";

type Reading = Schemas["ReadingOut"];

/** How each reading moved with the last edit; it stays until the next one. */
export function changesOf(before: Reading[] | null, now: Reading[]): Record<string, number> {
  if (!before) return {};
  // Other fluid boils elsewhere and gets as hot: there it is the margin that moves.
  const of = (reading: Reading) => (reading.name === "fluid" ? -reading.left : reading.value);
  const old = new Map(before.map((reading) => [reading.name, of(reading)]));
  return Object.fromEntries(
    now.map((reading) => [reading.name, of(reading) - (old.get(reading.name) ?? of(reading))]),
  );
}
