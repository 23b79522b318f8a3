import type { Schemas } from "../../api/client";

type Measured = Schemas["MeasurementOut"];

/** "front left inner" from an axle and a position such as "left.inner"; the axle's thinnest has no position. */
export function padText(axle: string, position: string): string {
  return position ? `${axle} ${position.replace(".", " ")}` : `${axle}, thinnest`;
}

/** The readings of each inspection as one: how many they were, and the thinnest of them. */
export function inspected(rows: Measured[]): { id: number; count: number; thinnest: Measured }[] {
  const groups = new Map<number, Measured[]>();
  for (const row of rows) {
    if (typeof row.inspection_id !== "number" || row.removed) continue;
    groups.set(row.inspection_id, [...(groups.get(row.inspection_id) ?? []), row]);
  }
  return [...groups].map(([id, group]) => ({
    id,
    count: group.length,
    thinnest: group.reduce((least, row) => (row.thickness_m < least.thickness_m ? row : least)),
  }));
}
