import type { Schemas } from "../../api/client";

export type Candidate = Schemas["CandidateOut"];

/** The best candidate of each pad (or two pads, or set-up), in order: rotor choices of the same stand behind it. */
export function onePerPad(candidates: Candidate[]): Candidate[] {
  const seen = new Set<string>();
  return candidates.filter(({ pads, set_up }) => {
    const name = `${pads}+${set_up}`;
    return !seen.has(name) && seen.add(name);
  });
}

/** Columns of the ladder: the best, the chosen one, and one rejected as a warning. */
export function ladderColumns(
  ranked: Candidate[],
  rejected: Candidate[],
  selected: string | null,
): Candidate[] {
  const best = onePerPad(ranked).slice(0, rejected.length > 0 ? 3 : 4);
  const warning = onePerPad(rejected).slice(0, 4 - best.length);
  const chosen = [...ranked, ...rejected].find((candidate) => candidate.key === selected);
  const columns = [...best, ...warning];
  if (chosen && !columns.includes(chosen)) columns[columns.length - 1] = chosen;
  return columns;
}

export function place(ranked: Candidate[], key: string): string {
  const at = ranked.findIndex((candidate) => candidate.key === key) + 1;
  const ending = at % 100 >= 11 && at % 100 <= 13 ? "th" : (["th", "st", "nd", "rd"][at % 10] ?? "th");
  return `${at}${ending}`;
}

/** The columns with what a what-if does to them; one without an answer yet stays as it was. */
export function withTried(columns: Candidate[], tried: Candidate[] | undefined): Candidate[] {
  const found = new Map((tried ?? []).map((candidate) => [candidate.key, candidate]));
  return columns.map((column) => {
    const now = found.get(column.key);
    // Its reason compares with the few that were tried along: the old one stays until all are judged again.
    return now ? { ...now, reason: column.reason } : column;
  });
}

export type Order = "score" | "peak" | "window" | "life" | "cost";

/** Every column in another order; those that are out stay behind those that pass. */
export function inOrder(ranked: Candidate[], rejected: Candidate[], order: Order): Candidate[] {
  const by: Record<Order, (candidate: Candidate) => number> = {
    score: (c) => -c.score,
    peak: (c) => Math.max(c.front.peak_C, c.rear.peak_C),
    window: (c) => -c.window_share,
    life: (c) => -c.life_events,
    cost: (c) => c.cost_per_hour,
  };
  const sorted = (rows: Candidate[]) =>
    order === "score" ? rows : rows.toSorted((a, b) => by[order](a) - by[order](b));
  return [...sorted(ranked), ...sorted(rejected)];
}

const MOST_SEEN = 12;

/** The columns in sight and a few beside them, in steps of four, so that a short way to scroll asks for nothing new. */
export function inSight(columns: Candidate[], first: number, count: number): Candidate[] {
  const start = Math.max(0, Math.min(Math.floor(first / 4) * 4, columns.length - Math.ceil(count) - 1));
  return columns.slice(start, start + MOST_SEEN);
}

const padsOf = (key: string) => key.split("-").slice(0, 2).join("-");

/** The set that was picked; once it is offered no more (its set-up is on the machine now), the best of its pads on the machine as it is. */
export function pickedOf(
  ranked: Candidate[],
  rejected: Candidate[],
  picked: string | null,
): Candidate | null {
  const offered = [...ranked, ...rejected];
  return (
    offered.find(({ key }) => key === picked) ??
    ranked.find(({ key, set_up }) => !set_up && picked !== null && padsOf(key) === padsOf(picked)) ??
    ranked[0] ??
    null
  );
}
