import type { Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { StateWord } from "../../ui/basics";
import { Cell, Row, right, Table, unseen } from "../../ui/Table";
import { useSession } from "../session/queries";
import { Why } from "../verdict";
import { type Candidate, onePerPad } from "./candidates";
import { Chance } from "./LadderPanel";
import { WaysOut } from "./WaysOut";

type RankedProps = {
  machineId: number;
  mixed: boolean;
  chances: Schemas["ChancesOut"] | undefined;
  candidates: Candidate[];
  every: Candidate[];
  selected: string | null;
  onSelect: (key: string) => void;
  compared: string[];
  onCompare: (key: string, on: boolean) => void;
};

/** Passing candidates by rank, each with its figures and the sentence that says why it stands there. */
export function Ranked(props: Omit<RankedProps, "machineId"> & { weights: Schemas["WeightsIO"] | null }) {
  const { mixed, weights, candidates, every, selected, onSelect, compared, onCompare, chances } = props;
  const units = useUnits();
  const currency = useSession().data?.currency ?? "";
  if (candidates.length === 0) return null;
  const peak = (c: Candidate) => Math.max(c.front.peak_C, c.rear.peak_C);
  const whose = (candidate: Candidate) => ({ of: candidate.key, mixed, weights });
  return (
    <Table
      className="mt-4"
      caption="Candidates that pass, best first"
      heads={[
        unseen("Rank", "w-8"),
        "Pads, front and rear rotor",
        right(`peak ${units.symbol("temperature")}`, "max-sm:hidden"),
        right("in window", "max-sm:hidden"),
        right(`fluid left, new · worn pads, ${units.symbol("temperatureChange")}`, "max-sm:hidden w-28"),
        right("pad life", "max-sm:hidden"),
        right(`pads, ${currency}/h`, "max-sm:hidden"),
        "Why it stands here",
      ]}
    >
      <tbody>
        {candidates.map((candidate) => (
          <Row
            key={candidate.key}
            data-candidate={candidate.pad}
            className={candidate.key === selected ? "bg-paper" : ""}
          >
            <Cell className="figures text-base font-bold">
              <Why {...whose(candidate)} topic="score">
                {every.indexOf(candidate) + 1}
              </Why>
            </Cell>
            <Cell className="min-w-32">
              <button
                type="button"
                aria-pressed={candidate.key === selected}
                className="min-h-6 text-left font-semibold underline-offset-2 hover:underline"
                onClick={() => onSelect(candidate.key)}
              >
                {candidate.pads}
              </button>
              <CompareTick candidate={candidate} compared={compared} onCompare={onCompare} />
              {candidate.fitted && (
                <span className="condensed ml-1 border border-hairline px-1 text-xs">fitted</span>
              )}
              <GoesIn fit={candidate.fit} />
              <span className="condensed block text-xs text-muted">
                {candidate.family}, data: {candidate.provenance} ·{" "}
                {candidate.set_up
                  ? `set-up ${candidate.set_up}, ${typeof candidate.set_up_price === "number" ? `${currency}${candidate.set_up_price.toFixed(0)}` : "its price not known"}`
                  : `${candidate.front_rotor} · ${candidate.rear_rotor}`}
              </span>
            </Cell>
            <Cell figures className="max-sm:hidden">
              <Why
                {...whose(candidate)}
                topic={candidate.front.peak_C >= candidate.rear.peak_C ? "peak_front" : "peak_rear"}
              >
                {units.figure(peak(candidate), "temperature")}
              </Why>
            </Cell>
            <Cell figures className="max-sm:hidden">
              <Why {...whose(candidate)} topic="window_share">
                {(100 * candidate.window_share).toFixed(0)} %
              </Why>
            </Cell>
            <Cell figures className="max-sm:hidden">
              <Why {...whose(candidate)} topic="fluid_margin">
                {units.figure(candidate.fluid_margin_K, "temperatureChange")}
              </Why>
              {" · "}
              {typeof candidate.worn_margin_K === "number" && (
                <Why {...whose(candidate)} topic="worn_margin">
                  {units.figure(candidate.worn_margin_K, "temperatureChange")}
                </Why>
              )}
            </Cell>
            <Cell figures className="max-sm:hidden">
              <Why {...whose(candidate)} topic="life_events">
                {candidate.life_hours.toFixed(candidate.life_hours < 100 ? 1 : 0)} h
              </Why>
            </Cell>
            <Cell figures className="max-sm:hidden">
              <Why {...whose(candidate)} topic="cost_per_hour">
                {candidate.cost_per_hour.toFixed(2)}
              </Why>
            </Cell>
            <Cell>
              {units.say(candidate.reason)}
              <Chance chances={chances} of={candidate.key} mixed={mixed} />
              <Beaten by={every.find((other) => other.key === candidate.dominated_by)} than={candidate} />
            </Cell>
          </Row>
        ))}
      </tbody>
    </Table>
  );
}

const fitStates = { fits: "fine", tight: "close", "not known": "close", "does not fit": "over" } as const;

/** Whether a set goes into its calipers, by the axle that has less room; Fit has the rest. */
function GoesIn({ fit }: { fit: Candidate["fit"] }) {
  const { say } = useUnits();
  if (!fit) return null;
  return (
    <span data-goes-in={fit.verdict} className="block text-xs">
      <StateWord state={fitStates[fit.verdict]}>
        {fit.axle} {say(fit.text)}
      </StateWord>
    </span>
  );
}

/** One that another beats or equals in everything: no weights bring it up. */
function Beaten({ by, than }: { by: Candidate | undefined; than: Candidate }) {
  if (!by) return null;
  const rotors = [by.front_rotor, by.rear_rotor].filter(
    (name, index) => name !== [than.front_rotor, than.rear_rotor][index],
  );
  const other =
    by.pads === than.pads && by.set_up === than.set_up
      ? `the same pads on ${rotors.join(" and ")}`
      : `${by.pads} on ${by.set_up ? `set-up ${by.set_up}` : by.front_rotor}`;
  return (
    <span data-beaten className="condensed block text-muted">
      Whatever the weights: {other} does no worse in anything and better in something.
    </span>
  );
}

const MOST_COMPARED = 4;
type TickProps = Pick<RankedProps, "compared" | "onCompare"> & { candidate: Candidate };

function CompareTick({ candidate, compared, onCompare }: TickProps) {
  const on = compared.includes(candidate.key);
  return (
    <label className="condensed ml-2 inline-flex min-h-6 items-center gap-1 text-xs">
      <input
        type="checkbox"
        className="size-3.5 accent-ink"
        checked={on}
        disabled={!on && compared.length >= MOST_COMPARED}
        onChange={(event) => onCompare(candidate.key, event.target.checked)}
      />
      compare
      <span className="sr-only">
        {" "}
        {candidate.pads} on {candidate.set_up || `${candidate.front_rotor}, ${candidate.rear_rotor}`}
      </span>
    </label>
  );
}

/** Rejected candidates, folded, with the limit each one breaks. */
export function Rejected(props: Omit<RankedProps, "every" | "selected">) {
  const { machineId, mixed, candidates, onSelect, compared, onCompare, chances } = props;
  const { say } = useUnits();
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
          — {[...counts].map(([reason, count]) => `${reason}: ${count}`).join(", ")}
        </span>
      </summary>
      <ul className="mt-2">
        {onePerPad(candidates).map((candidate) => (
          <li key={candidate.key} data-rejected={candidate.pad} className="border-t border-hairline py-1.5">
            <button
              type="button"
              className="min-h-6 font-semibold underline-offset-2 hover:underline"
              onClick={() => onSelect(candidate.key)}
            >
              {candidate.pads}
            </button>
            <CompareTick candidate={candidate} compared={compared} onCompare={onCompare} />
            <span className="condensed text-muted"> · {candidate.set_up || candidate.front_rotor}: </span>
            <GoesIn fit={candidate.rejected_for === "too thick" ? null : candidate.fit} />{" "}
            {say(candidate.reason)}
            <WaysOut machineId={machineId} candidate={candidate} mixed={mixed} />
            <Chance chances={chances} of={candidate.key} mixed={mixed} />
          </li>
        ))}
      </ul>
    </details>
  );
}
