import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { Measured } from "../../charts/frame";
import { AXIS, FLUID, type FluidColumn, HeatLadder, type Moment, PAIR } from "../../charts/HeatLadder";
import { useUnits } from "../../lib/settings";
import { axisClock, chance } from "../../lib/text";
import { StateWord } from "../../ui/basics";
import { RuleSlider } from "../../ui/RuleSlider";
import { Why } from "../verdict";
import { type Candidate, inSight, place } from "./candidates";
import { useScrub } from "./queries";

type Props = {
  machineId: number;
  mixed: boolean;
  columns: Candidate[];
  ranked: Candidate[];
  selected: string | null;
  fluid: FluidColumn | null;
  chances: Schemas["ChancesOut"] | undefined;
  onSelect: (key: string) => void;
  /** Told which columns can be seen: while a slider moves, those are what has to follow it. */
  onSight?: (keys: string[]) => void;
};

const STEPS = 200;

/** The heat ladder with its columns named, as many as there are: it scrolls, and shows any moment of the duty. */
export function LadderPanel(props: Props) {
  return <Measured initial={790}>{(width) => <Sliding {...props} width={width} />}</Measured>;
}

function Sliding({
  machineId,
  mixed,
  columns,
  ranked,
  selected,
  fluid,
  chances,
  onSelect,
  onSight,
  width,
}: Props & { width: number }) {
  const { system } = useUnits();
  const frame = useRef<HTMLElement>(null);
  const [shift, setShift] = useState(0);
  const [step, setStep] = useState(0);
  const whole = AXIS + columns.length * PAIR + (fluid ? FLUID : 0);
  const wide = Math.min(width, whole);
  const room = wide - AXIS - (fluid ? FLUID : 0);
  const seen = inSight(columns, shift / PAIR, room / PAIR);
  const scrub = useScrub(
    machineId,
    seen.map((column) => column.key),
    mixed,
    step > 0,
  );
  const t_s = scrub.data?.t_s ?? [];
  const end = t_s.at(-1) ?? 0;
  const at = (step / STEPS) * end;
  const moment = step > 0 && scrub.data ? momentAt(scrub.data, at) : null;
  const sight = seen.map((column) => column.key).join(" ");
  useEffect(() => onSight?.(sight.split(" ")), [sight, onSight]);
  const chosen = columns.findIndex((column) => column.key === selected);

  // The chosen column is brought into sight, wherever it was chosen.
  useEffect(() => {
    const element = frame.current;
    if (!element || chosen < 0) return;
    const left = chosen * PAIR;
    if (left < element.scrollLeft) element.scrollLeft = left;
    else if (left + PAIR > element.scrollLeft + room) element.scrollLeft = left + PAIR - room;
  }, [chosen, room]);

  const move = (by: number) => {
    const next = columns[Math.min(columns.length - 1, Math.max(0, chosen + by))];
    if (next) onSelect(next.key);
  };
  return (
    <>
      <section
        ref={frame}
        className="relative overflow-x-auto"
        aria-label="Heat ladder, scrolls sideways"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: without focus nobody could scroll it by keyboard
        tabIndex={0}
        onScroll={(event) => setShift(event.currentTarget.scrollLeft)}
        onKeyDown={(event) => {
          if (event.key !== "ArrowRight" && event.key !== "ArrowLeft") return;
          event.preventDefault();
          move(event.key === "ArrowRight" ? 1 : -1);
        }}
      >
        <div style={{ width: whole }}>
          <div className="sticky left-0 overflow-hidden" style={{ width: wide }}>
            <HeatLadder
              columns={columns.map((c) => ({ ...c, name: c.pads, rejected: c.rejected_for !== null }))}
              fluid={fluid}
              selected={selected}
              system={system}
              onSelect={onSelect}
              width={wide}
              shift={shift}
              moment={moment}
            />
            <ol
              className="relative ml-[56px] h-23 overflow-hidden bay:h-36"
              style={{ width: room }}
              aria-label="Columns of the ladder"
            >
              {seen.map((candidate) => (
                <li
                  key={candidate.key}
                  className="absolute top-0 w-[150px] px-2.5"
                  style={{ left: columns.indexOf(candidate) * PAIR - shift }}
                >
                  <p className="truncate font-semibold" title={candidate.pads}>
                    {candidate.pads}
                  </p>
                  <p className="condensed truncate text-xs text-muted">
                    {candidate.set_up ? `set-up: ${candidate.set_up}` : candidate.front_rotor}
                  </p>
                  {candidate.rejected_for ? (
                    <StateWord state="over">{`out: ${candidate.rejected_for}`}</StateWord>
                  ) : (
                    <StateWord state="fine">{`${place(ranked, candidate.key)}, ${candidate.score.toFixed(0)} points`}</StateWord>
                  )}
                  <Chance chances={chances} of={candidate.key} mixed={mixed} />
                </li>
              ))}
            </ol>
          </div>
        </div>
      </section>
      <div className="mt-2 max-w-md pl-[56px]" aria-busy={step > 0 && scrub.isFetching}>
        <RuleSlider
          label="Moment of the duty"
          value={step}
          min={0}
          max={STEPS}
          step={1}
          shown={step === 0 ? "the whole of it" : scrub.data ? axisClock(end).format(at) : "driving it…"}
          onChange={setStep}
        />
      </div>
    </>
  );
}

/** What the columns read at a time, between the two points beside it. */
export function momentAt(scrub: Schemas["ScrubOut"], at_s: number): Map<string, Moment> {
  const after = scrub.t_s.findIndex((t) => t >= at_s);
  const high = after < 0 ? scrub.t_s.length - 1 : after;
  const low = Math.max(0, high - 1);
  const [from, to] = [scrub.t_s[low] ?? 0, scrub.t_s[high] ?? 0];
  const share = to > from ? Math.min(1, (at_s - from) / (to - from)) : 1;
  const read = (values: number[]) => (values[low] ?? 0) * (1 - share) + (values[high] ?? 0) * share;
  return new Map(
    scrub.sets.map((set) => [
      set.key,
      { front_C: read(set.front_surface_C), rear_C: read(set.rear_surface_C), fluid_C: read(set.fluid_C) },
    ]),
  );
}

type ChanceProps = { chances: Schemas["ChancesOut"] | undefined; of: string; mixed: boolean };

/** How likely a set crosses a limit, in words; nothing before that is known. */
export function Chance({ chances, of, mixed }: ChanceProps) {
  const found = chances?.sets.find((entry) => entry.key === of);
  if (!chances || !found) return null;
  return (
    <span className="condensed block text-xs text-muted" data-chance={of}>
      over a limit:{" "}
      <Why topic="chance" of={of} mixed={mixed}>
        {chance(found.any_probability, chances.draws)} likely
      </Why>
    </span>
  );
}
