import { useState } from "react";
import { WheelSection } from "../../charts/WheelSection";
import { useUnits } from "../../lib/settings";
import { StateWord } from "../../ui/basics";
import { SteelRule } from "../../ui/SteelRule";
import { Photos } from "./Photos";
import { PickCell, TickCell } from "./picks";
import type { Inspection } from "./queries";
import { ReadingCell } from "./ReadingCell";
import { useSheet } from "./sheet";
import {
  depths,
  facePicks,
  faceTicks,
  type Pick,
  padState,
  padWord,
  type Tick,
  underPicks,
  underTicks,
  wheelState,
} from "./words";

type Wheel = Inspection["wheels"][number];
const MOST_POINTS = 8;
const FIRST_POINTS = 3;
const nothing = [
  ["", "not looked at"],
  ["sound", "nothing found"],
] as const;

/** One corner of the plan: the disc between its pads, every reading of it, and what was found. */
export function WheelPanel({ wheel }: { wheel: Wheel }) {
  const { system } = useUnits();
  const { inspection } = useSheet();
  const own = inspection.cells.filter((cell) => cell.name.startsWith(`${wheel.name}.`));
  const value = (name: string) => {
    const found = own.find((cell) => cell.name === `${wheel.name}.${name}`)?.value;
    return typeof found === "number" ? found : null;
  };
  const thinnest = (side: string) => {
    const ends = [value(`pad_${side}_1`), value(`pad_${side}_2`)].filter((end) => end !== null);
    return ends.length ? Math.min(...ends) : null;
  };
  const rotor = inspection.rotors.find((row) => row.wheel === wheel.name);
  const verdict = wheelState(inspection, wheel.name, system);
  return (
    <section
      id={wheel.name}
      aria-label={wheel.label}
      data-boxes
      className="scroll-mt-14 border border-hairline p-3 focus-within:border-ink"
    >
      <div className="mb-2 flex items-baseline justify-between gap-2">
        <h2 className="font-semibold">{wheel.label}</h2>
        {verdict && <StateWord state={verdict.state}>{verdict.text}</StateWord>}
      </div>
      <div className="grid grid-cols-[minmax(5rem,7.5rem)_1fr] gap-3 bay:max-md:grid-cols-1">
        <div className="pt-2 bay:max-md:max-w-28">
          <WheelSection
            rotorNew_m={wheel.rotor_new_m}
            rotor_m={rotor?.least_m ?? null}
            padNew_m={wheel.pad_new_m}
            change_m={wheel.pad_change_m}
            inner_m={thinnest("inner")}
            outer_m={thinnest("outer")}
            mirrored={wheel.name.endsWith("left")}
          />
        </div>
        <div className="min-w-0">
          <div className="grid grid-cols-2 gap-x-4">
            {(["inner", "outer"] as const).map((side) => (
              <PadCells key={side} wheel={wheel} side={side} least_m={thinnest(side)} />
            ))}
          </div>
          <RotorCells wheel={wheel} />
        </div>
      </div>
      <Conditions wheel={wheel} />
    </section>
  );
}

function PadCells({
  wheel,
  side,
  least_m,
}: {
  wheel: Wheel;
  side: "inner" | "outer";
  least_m: number | null;
}) {
  const { inspection, open } = useSheet();
  const { withUnit } = useUnits();
  const [taper, setTaper] = useState(false);
  const second = `${wheel.name}.pad_${side}_2`;
  const both = taper || inspection.cells.some((cell) => cell.name === second);
  const word = inspection.pads[`${wheel.name}.${side}`];
  const state = word ? (padState[word] ?? "fine") : "fine";
  return (
    <div className="min-w-0">
      <ReadingCell
        reading
        name={`${wheel.name}.pad_${side}_1`}
        label={`${wheel.label}, pad, ${side}`}
        unit
        short={both ? `${side}, one end` : `Pad, ${side}`}
        aside={
          word && (
            <span className="shrink-0 whitespace-nowrap text-xs">
              <StateWord state={state}>{padWord[word]}</StateWord>
            </span>
          )
        }
      />
      {both && (
        <ReadingCell
          reading
          name={second}
          label={`${wheel.label}, pad, ${side}, other end`}
          unit
          short="other end"
        />
      )}
      {least_m === null ? (
        <p className="condensed mt-1 text-xs text-muted">new {withUnit(wheel.pad_new_m, "thickness")}</p>
      ) : (
        <>
          <SteelRule
            fill={least_m / wheel.pad_new_m}
            notch={wheel.pad_change_m / wheel.pad_new_m}
            state={state}
            ticks={Math.round(2000 * wheel.pad_new_m)}
          />
          <p className="condensed text-xs text-muted">
            change at {withUnit(wheel.pad_change_m, "thickness")}
          </p>
        </>
      )}
      {!both && open && (
        <button
          type="button"
          className="condensed min-h-6 text-xs underline underline-offset-2"
          onClick={() => setTaper(true)}
        >
          Tapered: other end
          <span className="sr-only">
            {" "}
            of {wheel.label}, {side}
          </span>
        </button>
      )}
    </div>
  );
}

function RotorCells({ wheel }: { wheel: Wheel }) {
  const { inspection, open } = useSheet();
  const { withUnit, figure, symbol } = useUnits();
  const [more, setMore] = useState(0);
  const known = inspection.cells.filter((cell) => cell.name.startsWith(`${wheel.name}.rotor_`));
  const last = Math.max(0, ...known.map((cell) => Number(cell.name.split("_").at(-1))));
  const count = Math.min(MOST_POINTS, Math.max(FIRST_POINTS, last) + more);
  const rotor = inspection.rotors.find((row) => row.wheel === wheel.name);
  const washers = inspection.cells.find((cell) => cell.name === "washers")?.value;
  const plain = inspection.cells.some((cell) => cell.name === `${wheel.name}.plain` && cell.value === true);
  const over = typeof washers === "number" && !plain;
  const discard = rotor?.discard_m ?? wheel.discard_m;
  // A ring may be under its discard: the rule still ends above it.
  const top = Math.max(wheel.rotor_new_m, 1.05 * discard);
  const low = discard - 0.4 * (top - discard);
  const share = (value: number) => (value - low) / (top - low);
  const ruling = inspection.rulings.find((row) => row.subject === `${wheel.name}.rotor`);
  return (
    <fieldset className="mt-2">
      <legend className="condensed flex w-full justify-between gap-2 text-xs text-muted">
        <span>
          Rotor, {over ? "over washers" : "plain"}, {symbol("reading")}
        </span>
        {open && count < MOST_POINTS && (
          <button
            type="button"
            className="min-h-6 text-ink underline underline-offset-2"
            onClick={() => setMore(more + 1)}
          >
            Another point<span className="sr-only">, {wheel.label}</span>
          </button>
        )}
      </legend>
      <div className="grid grid-cols-3 gap-1.5">
        {Array.from({ length: count }, (_, index) => index + 1).map((point) => (
          <ReadingCell
            key={point}
            reading
            name={`${wheel.name}.rotor_${point}`}
            label={`${wheel.label}, rotor, point ${point}`}
            short={`point ${point}`}
          />
        ))}
      </div>
      {rotor && (
        <>
          <p className="mt-1">
            <span className="figures text-figure font-semibold">{figure(rotor.least_m, "reading")}</span>{" "}
            <span className="condensed text-muted">
              {symbol("reading")} least
              {rotor.points_m.length > 1 && `, varies ${figure(rotor.variation_m, "reading")}`}
              {over && `, less ${withUnit(washers, "reading")} of washers`}
            </span>
          </p>
          <SteelRule
            fill={share(rotor.least_m)}
            notch={share(discard)}
            state={ruling?.state ?? "fine"}
            ticks={Math.round(10000 * (top - low))}
          />
        </>
      )}
      <p className="condensed text-xs text-muted">
        {wheel.rotor_new_m > discard ? "new" : "on Machine"} {withUnit(wheel.rotor_new_m, "reading")}, discard{" "}
        {withUnit(discard, "reading")}
      </p>
    </fieldset>
  );
}

function Conditions({ wheel }: { wheel: Wheel }) {
  const { inspection } = useSheet();
  const cells = [...depths, ...facePicks, ...faceTicks, ...underPicks, ...underTicks, { cell: "plain" }];
  const noted = inspection.cells.filter((cell) =>
    cells.some((known) => cell.name === `${wheel.name}.${known.cell}`),
  ).length;
  const [shown, setShown] = useState(noted > 0);
  const at = (cell: string) => `${wheel.name}.${cell}`;
  return (
    <div className="mt-2 border-t border-hairline pt-2">
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2 bay:max-md:grid-cols-1">
        <PickCell
          name={at("surface")}
          label={`${wheel.label}, rotor faces`}
          short="Rotor faces"
          options={nothing}
        />
        <PickCell
          name={at("under")}
          label={`${wheel.label}, underneath`}
          short="Hose, pins, pistons, hub"
          options={nothing}
        />
        <button
          type="button"
          aria-expanded={shown}
          className="h-8 rounded-xs border border-ink px-2 max-md:h-11"
          onClick={() => setShown(!shown)}
        >
          {shown ? "Close" : "Note"}
          <span className="sr-only"> what was found, {wheel.label}</span>
          {!shown && noted > 0 && ` (${noted})`}
        </button>
      </div>
      {shown && (
        <div className="mt-2 grid gap-2">
          <div className="grid grid-cols-2 gap-2">
            {depths.map((row) => (
              <ReadingCell
                key={row.cell}
                name={at(row.cell)}
                label={`${wheel.label}, ${row.label}`}
                unit
                short={row.label}
              />
            ))}
          </div>
          <div className="grid grid-cols-3 gap-2">
            <Picks wheel={wheel} rows={facePicks} />
          </div>
          <div className="flex flex-wrap gap-x-4">
            <Ticks wheel={wheel} rows={faceTicks} />
          </div>
          <div className="grid grid-cols-3 gap-2 sm:grid-cols-5">
            <Picks wheel={wheel} rows={underPicks} />
          </div>
          <div className="flex flex-wrap gap-x-4">
            <Ticks wheel={wheel} rows={underTicks} />
            <TickCell
              name={at("plain")}
              label={`${wheel.label}, rotor read without washers`}
              short="rotor read without washers"
            />
          </div>
          <Photos wheel={wheel.name} label={wheel.label} />
        </div>
      )}
    </div>
  );
}

function Picks({ wheel, rows }: { wheel: Wheel; rows: Pick[] }) {
  return rows.map((row) => (
    <PickCell
      key={row.cell}
      name={`${wheel.name}.${row.cell}`}
      label={`${wheel.label}, ${row.label}`}
      short={row.label}
      options={row.options}
    />
  ));
}

function Ticks({ wheel, rows }: { wheel: Wheel; rows: Tick[] }) {
  return rows.map((row) => (
    <TickCell
      key={row.cell}
      name={`${wheel.name}.${row.cell}`}
      label={`${wheel.label}, ${row.label}`}
      short={row.label}
    />
  ));
}
