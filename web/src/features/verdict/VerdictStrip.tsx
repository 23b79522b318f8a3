import { useEffect, useRef, useState } from "react";
import { isUnreachable, problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { chance, roughText } from "../../lib/text";
import { type Quantity, type System, shownRange } from "../../lib/units";
import { type State, StateWord, Working } from "../../ui/basics";
import { SteelRule } from "../../ui/SteelRule";
import { useLevers } from "../choose/queries";
import { isTrying, useWhatIf, whatIfWords } from "../whatif";
import { changesOf } from "./changes";
import { useRanges, useVerdict, whyStore } from "./queries";

type Reading = Schemas["ReadingOut"];
type Range = Schemas["RangeOut"];

type Shown = {
  label: (detail: string) => string;
  /** What it is measured in; a share has no quantity. */
  quantity: Quantity | null;
  /** What a change of it is measured in. */
  change: Quantity | null;
  words?: Partial<Record<State, string>>;
};
const shownAs: Record<string, Shown> = {
  rotor: { label: (d) => `Hottest ring, ${d}`, quantity: "temperature", change: "temperatureChange" },
  window: {
    label: (d) => `Outside window, ${d}`,
    quantity: null,
    change: null,
    words: { fine: "fits", close: "partly", over: "outside" },
  },
  pedal: {
    label: (d) => (d ? `Pedal force: ${d}` : "Pedal force, worst"),
    quantity: "force",
    change: "force",
  },
  fluid: { label: (d) => `Fluid with hot soak, ${d}`, quantity: "temperature", change: "temperatureChange" },
  life: { label: (d) => `Two weeks' wear, ${d}`, quantity: null, change: null },
};

export function VerdictStrip({ machineId }: { machineId: number }) {
  const verdict = useVerdict(machineId);
  const [whatIf] = useWhatIf(machineId);
  const last = useRef<{ machine: number; readings: Reading[] } | null>(null);
  const [changes, setChanges] = useState<Record<string, number>>({});
  const readings = verdict.isPlaceholderData ? undefined : verdict.data?.readings;
  const ranges = useRanges(machineId, verdict.data !== undefined);

  useEffect(() => {
    if (!readings || last.current?.readings === readings) return;
    const before = last.current?.machine === machineId ? last.current.readings : null;
    const next = changesOf(before, readings);
    if (!before || Object.values(next).some((change) => Math.abs(change) > 1e-9)) setChanges(next);
    last.current = { machine: machineId, readings };
  }, [readings, machineId]);

  const levers = useLevers(machineId).data;
  const units = useUnits();
  return (
    <section
      aria-label="Verdict"
      aria-busy={verdict.isFetching}
      className="border-b border-ink px-4 py-2.5 max-md:py-1.5"
    >
      {verdict.error ? (
        <p className="condensed text-muted">
          {isUnreachable(verdict.error)
            ? "No connection: the five readings are computed once there is one."
            : problemText(verdict.error)}
        </p>
      ) : (
        <>
          {verdict.data && (
            <Survives
              outcome={verdict.data.outcome}
              bite={verdict.data.bite}
              ranges={ranges}
              setName={verdict.data.set_name}
              duty={verdict.data.duty}
            />
          )}
          <div className="relative flex gap-x-5 overflow-x-auto max-md:snap-x md:grid md:grid-cols-3 md:gap-y-2 lg:grid-cols-5">
            {(verdict.data?.readings ?? []).map((reading) => (
              <OneReading
                key={reading.name}
                reading={reading}
                change={changes[reading.name] ?? 0}
                range={ranges?.ranges.find((range) => range.name === reading.name)}
                onWhy={() => whyStore.set({ topic: reading.name })}
              />
            ))}
            {!verdict.data && <Working>Computing the five readings…</Working>}
          </div>
        </>
      )}
      {isTrying(whatIf) && levers && (
        <p className="condensed mt-1 text-close">
          ◐ What-if: {whatIfWords(whatIf, levers, units.system).join(", ")}. Nothing of it is saved.
        </p>
      )}
    </section>
  );
}

const outcomeWords: Record<State, string> = { fine: "survives", close: "close", over: "out" };

type SurvivesProps = {
  outcome: Schemas["OutcomeOut"];
  bite: Schemas["SaidOut"] | null;
  ranges: Schemas["RangesOut"] | undefined;
  setName: string;
  duty: string;
};

/** The answer before its five numbers: what is out of its limit, or nearest to it, and how likely anything is. */
function Survives({ outcome, bite, ranges, setName, duty }: SurvivesProps) {
  const { say } = useUnits();
  return (
    <p data-outcome={outcome.state} className="mb-1.5 flex flex-wrap items-baseline gap-x-2">
      <StateWord state={outcome.state}>
        {outcome.limit === "life" && outcome.state === "over" ? "due" : outcomeWords[outcome.state]}:{" "}
        {say(outcome.text)}
      </StateWord>
      {bite && (
        <span data-bite>
          <StateWord state="close">{say(bite)}</StateWord>
        </span>
      )}
      <span className="condensed text-muted">
        {ranges && `over a limit ${chance(ranges.any_probability, ranges.draws)} likely · `}
        {setName}, {duty}
      </span>
    </p>
  );
}

type OneProps = { reading: Reading; change: number; range: Range | undefined; onWhy: () => void };

function OneReading({ reading, change, range, onWhy }: OneProps) {
  const units = useUnits();
  const how = shownAs[reading.name];
  if (!how) return null;
  const figure = (value: number) =>
    how.quantity ? units.figure(value, how.quantity) : value.toFixed(value > 0 && value < 9.95 ? 1 : 0);
  const unit = how.quantity ? units.symbol(how.quantity) : "%";
  const moved = how.change
    ? units.figure(change, how.change)
    : change.toFixed(Math.abs(change) < 9.95 ? 1 : 0);
  const visible = Number(moved) !== 0;
  return (
    <button
      type="button"
      data-reading={reading.name}
      className={`block min-w-0 text-left max-md:w-44 max-md:shrink-0 max-md:snap-start ${reading.state === "fine" ? "" : "max-md:-order-1"}`}
      onClick={onWhy}
    >
      <span className="condensed flex justify-between gap-2 text-xs">
        <span className="truncate">{units.word(how.label(reading.detail))}</span>
        {range && (
          <span className="figures shrink-0 text-muted" data-range={reading.name} title="P10 to P90">
            {rangeText(range, how.quantity, units.system)}
          </span>
        )}
      </span>
      <span className="flex items-baseline justify-between gap-1">
        <span className="whitespace-nowrap">
          <span className="figures text-base font-bold">{figure(reading.value)}</span>
          <span className="condensed text-muted">
            {" "}
            of {figure(reading.limit)} {unit}
          </span>
          {visible && (
            <span className="figures ml-1.5 text-xs text-muted" data-change={reading.name}>
              {Number(moved) > 0 ? `+${moved}` : moved}
            </span>
          )}
        </span>
        <StateWord state={reading.state}>{how.words?.[reading.state]}</StateWord>
      </span>
      <span className="sr-only">Why?</span>
      <SteelRule
        fill={reading.fill}
        notch={reading.notch}
        state={reading.state as State}
        band={range && [range.fill_low, range.fill_high]}
      />
    </button>
  );
}

/** P10 to P90 to two figures: a range made of estimates has no more. */
function rangeText(range: Range, quantity: Quantity | null, system: System): string {
  const [low, high] = quantity
    ? shownRange([range.p10, range.p90], quantity, system)
    : [range.p10, range.p90];
  const text = (value: number) =>
    roughText(quantity ? value : Math.min(range.name === "life" ? 999 : 100, value));
  return text(low) === text(high) ? `≈ ${text(low)}` : `${text(low)}–${text(high)}`;
}
