import type { Schemas } from "../../api/client";
import type { Use } from "./queries";

type Look = Schemas["LookOut"];

export const roleWords: Record<string, string> = {
  time: "time",
  distance: "distance",
  speed: "speed",
  altitude: "altitude",
  latitude: "latitude",
  longitude: "longitude",
  brake_pressure: "brake pressure",
  front_temperature: "front temperature",
  rear_temperature: "rear temperature",
};

export const smoothings = [
  ["auto", "by its noise"],
  ["none", "none"],
  ["light", "light, 0.5 s"],
  ["medium", "medium, 0.9 s"],
  ["strong", "strong, 1.8 s"],
] as const;

/** What the file's own headings say of its columns. */
export function guessedUses(look: Look): Use[] {
  return look.columns.flatMap(({ role, unit }, column) => (role ? [{ column, role, unit }] : []));
}

/** Give a column a role: whoever had it loses it, and the unit is one that fits. */
export function withRole(uses: Use[], column: number, role: string, look: Look): Use[] {
  const others = uses.filter((use) => use.column !== column && use.role !== role);
  if (!role) return others;
  const units = look.roles[role] ?? [];
  const guessed = look.columns[column];
  const unit = guessed?.role === role && units.includes(guessed.unit) ? guessed.unit : (units[0] ?? "");
  return [...others, { column, role, unit }].sort((a, b) => a.column - b.column);
}

/** What is still missing before the rows can be read; null when nothing is. */
export function missing(uses: Use[]): string | null {
  const has = (role: string) => uses.some((use) => use.role === role);
  if (has("time")) {
    const moves = has("speed") || has("distance") || (has("latitude") && has("longitude"));
    return moves ? null : "Say which column is the speed, the distance or the position.";
  }
  return has("distance") && has("speed") ? null : "Say which column is the time, or both distance and speed.";
}

/** One line about what was done to the recording. */
export function doneText(read: Schemas["ReadOut"]): string {
  const parts = [
    `${read.rows} rows at ${read.rate_Hz.toFixed(read.rate_Hz < 3 ? 1 : 0)} a second`,
    `noise ${read.noise_mps.toFixed(2)} m/s, smoothing ${read.smoothing}`,
    read.spikes ? `${read.spikes} spikes taken out` : "no spikes",
    read.gaps ? `${read.gaps} gaps bridged, ${read.gap_s.toFixed(1)} s in all` : "no gaps",
  ];
  return `${parts.join(" · ")}.`;
}
