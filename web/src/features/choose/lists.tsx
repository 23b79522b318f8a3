import { useSession } from "../../api/queries";
import { useUnits } from "../../lib/settings";
import { sentenceText } from "../../lib/text";
import { StateWord } from "../../ui/basics";
import { type Candidate, onePerPad } from "./candidates";

type RankedProps = {
  candidates: Candidate[];
  every: Candidate[];
  selected: string | null;
  onSelect: (key: string) => void;
};

/** Passing candidates by rank, each with its figures and the sentence that says why it stands there. */
export function Ranked({ candidates, every, selected, onSelect }: RankedProps) {
  const units = useUnits();
  const currency = useSession().data?.currency ?? "";
  if (candidates.length === 0) return null;
  const peak = (c: Candidate) => Math.max(c.front.peak_C, c.rear.peak_C);
  const cell = "figures whitespace-nowrap py-2 pr-3 text-right align-top max-sm:hidden";
  return (
    <table className="mt-4 w-full">
      <caption className="sr-only">Candidates that pass, best first</caption>
      <thead className="condensed text-xs text-muted">
        <tr className="border-b border-ink">
          <th className="w-8 text-left font-normal" aria-label="Rank" />
          <th className="text-left font-normal">Pads, front and rear rotor</th>
          <th className="pr-3 text-right font-normal max-sm:hidden">peak {units.symbol("temperature")}</th>
          <th className="pr-3 text-right font-normal max-sm:hidden">in window</th>
          <th className="pr-3 text-right font-normal max-sm:hidden">pad life</th>
          <th className="pr-3 text-right font-normal max-sm:hidden">pads, {currency}/h</th>
          <th className="text-left font-normal">Why it stands here</th>
        </tr>
      </thead>
      <tbody>
        {candidates.map((candidate) => (
          <tr
            key={candidate.key}
            data-candidate={candidate.pad}
            className={`border-b border-hairline ${candidate.key === selected ? "bg-paper" : ""}`}
          >
            <td className="figures py-2 align-top text-base font-bold">{every.indexOf(candidate) + 1}</td>
            <td className="min-w-32 py-2 pr-3 align-top">
              <button
                type="button"
                aria-pressed={candidate.key === selected}
                className="text-left font-semibold underline-offset-2 hover:underline"
                onClick={() => onSelect(candidate.key)}
              >
                {candidate.pad}
              </button>
              {candidate.fitted && (
                <span className="condensed ml-1 border border-hairline px-1 text-xs">fitted</span>
              )}
              <span className="condensed block text-xs text-muted">
                {candidate.family}, data: {candidate.provenance} · {candidate.front_rotor} ·{" "}
                {candidate.rear_rotor}
              </span>
            </td>
            <td className={cell}>{units.figure(peak(candidate), "temperature")}</td>
            <td className={cell}>{(100 * candidate.window_share).toFixed(0)} %</td>
            <td className={cell}>
              {candidate.life_hours < 100 ? candidate.life_hours.toFixed(1) : candidate.life_hours.toFixed(0)}{" "}
              h
            </td>
            <td className={cell}>{candidate.cost_per_hour.toFixed(2)}</td>
            <td className="py-2 align-top">{sentenceText(candidate.reason, units.system)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Rejected candidates, folded, with the limit each one breaks. */
export function Rejected({
  candidates,
  onSelect,
}: {
  candidates: Candidate[];
  onSelect: (key: string) => void;
}) {
  const { system } = useUnits();
  if (candidates.length === 0) return null;
  const counts = new Map<string, number>();
  for (const { rejected_for } of candidates)
    counts.set(rejected_for ?? "", (counts.get(rejected_for ?? "") ?? 0) + 1);
  return (
    <details className="mt-4">
      <summary className="cursor-pointer">
        <StateWord state="over">{`${candidates.length} rejected`}</StateWord>
        <span className="text-muted">
          {" "}
          — {[...counts].map(([reason, count]) => `${count} ${reason}`).join(", ")}
        </span>
      </summary>
      <ul className="mt-2">
        {onePerPad(candidates).map((candidate) => (
          <li key={candidate.key} data-rejected={candidate.pad} className="border-t border-hairline py-1.5">
            <button
              type="button"
              className="font-semibold underline-offset-2 hover:underline"
              onClick={() => onSelect(candidate.key)}
            >
              {candidate.pad}
            </button>
            <span className="condensed text-muted"> · {candidate.front_rotor}: </span>
            {sentenceText(candidate.reason, system)}
          </li>
        ))}
      </ul>
    </details>
  );
}
