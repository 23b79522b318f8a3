import type { Schemas } from "../../api/client";

export type Candidate = Schemas["CandidateOut"];

/** The best candidate of each pad, in order: rotor choices of the same pad stand behind it. */
export function onePerPad(candidates: Candidate[]): Candidate[] {
  const seen = new Set<string>();
  return candidates.filter((candidate) => !seen.has(candidate.pad) && seen.add(candidate.pad));
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
