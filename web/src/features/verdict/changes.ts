import type { Schemas } from "../../api/client";

type Reading = Schemas["ReadingOut"];

/** How each reading moved with the last edit; it stays until the next one. */
export function changesOf(before: Reading[] | null, now: Reading[]): Record<string, number> {
  if (!before) return {};
  const old = new Map(before.map((reading) => [reading.name, reading.value]));
  return Object.fromEntries(
    now.map((reading) => [reading.name, reading.value - (old.get(reading.name) ?? reading.value)]),
  );
}
