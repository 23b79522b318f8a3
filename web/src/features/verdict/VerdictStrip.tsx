import { useEffect, useRef, useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { eventsText, roughText } from "../../lib/text";
import { type Quantity, type System, shownRange } from "../../lib/units";
import { type State, StateWord } from "../../ui/basics";
import { SteelRule } from "../../ui/SteelRule";
import { useLevers } from "../choose/queries";
import { isTrying, useWhatIf, whatIfWords } from "../whatif";
import { changesOf } from "./changes";
import { useRanges, useVerdict, whyStore } from "./queries";

type Reading = Schemas["ReadingOut"];
type Range = Schemas["RangeOut"];

const shownAs: Record<
  string,
  { label: (detail: string) => string; quantity: Quantity | null; change: Quantity | null; unit: string }
> = {
  rotor: {
    label: (d) => `Hottest rotor, ${d}`,
    quantity: "temperature",
    change: "temperatureChange",
    unit: "",
  },
  window: { label: (d) => `In pad window, ${d}`, quantity: null, change: null, unit: "%" },
  pedal: { label: () => "Pedal force left", quantity: "force", change: "force", unit: "" },
  fluid: {
    label: (d) => `Fluid to boil, ${d.split(",")[0]}`,
    quantity: "temperatureChange",
    change: "temperatureChange",
    unit: "left",
  },
  life: { label: (d) => `Pads to change, ${d}`, quantity: null, change: null, unit: "events" },
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
    <section aria-label="Verdict" aria-busy={verdict.isFetching} className="border-b border-ink px-4 py-2.5">
      {verdict.error ? (
        <p className="condensed text-muted">{problemText(verdict.error)}</p>
      ) : (
        <div className="grid grid-cols-2 gap-x-5 gap-y-2 md:grid-cols-3 lg:grid-cols-5">
          {(verdict.data?.readings ?? []).map((reading) => (
            <OneReading
              key={reading.name}
              reading={reading}
              change={changes[reading.name] ?? 0}
              range={ranges?.ranges.find((range) => range.name === reading.name)}
              onWhy={() => whyStore.set({ topic: reading.name })}
            />
          ))}
          {!verdict.data && <p className="condensed text-muted">Computing the five readings…</p>}
        </div>
      )}
      {isTrying(whatIf) && levers && (
        <p className="condensed mt-1 text-close">
          ◐ What-if: {whatIfWords(whatIf, levers, units.system).join(", ")}. Nothing of it is saved.
        </p>
      )}
    </section>
  );
}

type OneProps = { reading: Reading; change: number; range: Range | undefined; onWhy: () => void };

function OneReading({ reading, change, range, onWhy }: OneProps) {
  const units = useUnits();
  const how = shownAs[reading.name];
  if (!how) return null;
  const value = how.quantity
    ? units.figure(reading.value, how.quantity)
    : reading.name === "life"
      ? eventsText(reading.value)
      : reading.value.toFixed(0);
  const unit = `${how.quantity ? units.symbol(how.quantity) : ""} ${how.unit}`.trim();
  const moved = how.change
    ? units.figure(change, how.change)
    : change.toFixed(reading.name === "life" ? 1 : 0);
  const visible = Number(moved) !== 0;
  return (
    <button type="button" data-reading={reading.name} className="block min-w-0 text-left" onClick={onWhy}>
      <span className="condensed flex justify-between gap-2 text-xs">
        <span className="truncate">{how.label(reading.detail)}</span>
        {range && (
          <span className="figures shrink-0 text-muted" data-range={reading.name} title="P10 to P90">
            {rangeText(range, how.quantity, units.system)}
          </span>
        )}
      </span>
      <span className="flex items-baseline justify-between gap-1">
        <span className="whitespace-nowrap">
          <span className="figures text-base font-bold">{value}</span>
          <span className="condensed text-muted"> {unit}</span>
          {visible && (
            <span className="figures ml-1.5 text-xs text-muted" data-change={reading.name}>
              {Number(moved) > 0 ? `+${moved}` : moved}
            </span>
          )}
        </span>
        <StateWord state={reading.state as State} />
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
  if (range.p10 >= 99998) return "";
  const text = (value: number) => roughText(quantity || range.name === "life" ? value : Math.min(100, value));
  return text(low) === text(high) ? `≈ ${text(low)}` : `${text(low)}–${text(high)}`;
}
