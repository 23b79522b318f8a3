// What waits on this device to be sent, by what it is of: outboxes are kept as drafts under names that say so.

export type Kind = "inspection" | "job" | "run" | "events";
export type Waiting = {
  key: string;
  kind: Kind;
  machineId: number;
  id: number;
  /** To be sent as soon as there is a connection. */
  waits: number;
  /** The server has seen it and does not take it as it is: somebody has to look. */
  stuck: number;
};

export const keyOf = (machineId: number, kind: Kind, id: number) => `m${machineId}.${kind}.${id}`;

const KEY = /^m(\d+)\.(inspection|job|run|events)\.(\d+)(\.refused)?$/;

function countOf(value: unknown): { waits: number; stuck: number } {
  if (Array.isArray(value)) return { waits: value.length, stuck: 0 };
  // The cells of a sheet, each in a state of its own.
  const states = Object.values((value ?? {}) as Record<string, { state?: string }>).map((cell) => cell.state);
  const waits = states.filter((state) => state === "waiting").length;
  return { waits, stuck: states.length - waits };
}

const stuckOf = (value: unknown) => (typeof value === "string" ? 1 : Object.keys(value ?? {}).length);

/** The outboxes that hold something. */
export function waitingIn(held: ReadonlyMap<string, unknown>): Waiting[] {
  const rows = new Map<string, Waiting>();
  for (const [name, value] of held) {
    const match = KEY.exec(name);
    if (!match) continue;
    const [, machineId, kind, id, refused] = match;
    const key = keyOf(Number(machineId), kind as Kind, Number(id));
    const row = rows.get(key) ?? {
      key,
      kind: kind as Kind,
      machineId: Number(machineId),
      id: Number(id),
      waits: 0,
      stuck: 0,
    };
    const count = refused ? { waits: 0, stuck: stuckOf(value) } : countOf(value);
    rows.set(key, { ...row, waits: row.waits + count.waits, stuck: row.stuck + count.stuck });
  }
  return [...rows.values()].filter((row) => row.waits + row.stuck > 0);
}

/** Where one looks at it. */
export function pathOf({ kind, machineId, id }: Waiting): string {
  const machine = `/m/${machineId}`;
  if (kind === "inspection") return `${machine}/inspect?sheet=${id}`;
  if (kind === "job") return `${machine}/job?job=${id}`;
  return kind === "run" ? `${machine}/bed/run/${id}` : `${machine}/life`;
}

const nouns: Record<Kind, [string, string, string]> = {
  inspection: ["entry", "entries", "an inspection"],
  job: ["tick or reading", "ticks and readings", "a job"],
  run: ["braking or reading", "brakings and readings", "a bedding run"],
  events: ["change", "changes", "the season"],
};

/** So many of what, of what. */
export function wordsOf(kind: Kind, count: number): string {
  const [one, many, of] = nouns[kind];
  return `${count} ${count === 1 ? one : many} of ${of}`;
}
