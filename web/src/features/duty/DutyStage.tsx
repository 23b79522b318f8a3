import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { DutyTrace } from "../../charts/DutyTrace";
import { useHand } from "../../lib/hand";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { hoursText } from "../../lib/text";
import { unitOf } from "../../lib/units";
import { Button, Failure, Figure, LinkButton, StageTitle, StateWord, Working } from "../../ui/basics";
import { useMachine } from "../machine/queries";
import { Why } from "../verdict";
import { Calibrate } from "./Calibrate";
import { DutyEditor } from "./DutyEditor";
import { bodyOf, draftStore, kindWords, newBody, runOf, setDutyDraft, shaped, typedKinds } from "./drafts";
import { Questions } from "./Questions";
import { useChooseDuty, useCircuits, useDuties, useDutyTrace, useRemoveDuty } from "./queries";
import { RunImport } from "./RunImport";
import { sorted } from "./suits";

const FIRST_LAPS = 4;

export function DutyStage() {
  const id = useMachineId();
  const machine = useMachine(id);
  const duties = useDuties();
  const choose = useChooseDuty(id);
  const [picked, hold] = useHand<number>();
  const inForce = picked ?? machine.data?.duty_id ?? null;
  const pick = (duty_id: number) => hold(duty_id, choose.mutateAsync({ duty_id }));
  const draft = shaped(useStore(draftStore)[id]);
  const [importing, setImporting] = useState(false);
  const remove = useRemoveDuty();
  const [gone, setGone] = useState<Schemas["DutyOut"] | null>(null);
  const duty = duties.data?.find((row) => row.id === inForce);
  if (duties.error) return <Failure text={problemText(duties.error)} retry={() => duties.refetch()} />;
  /** What was kept is put in force at once: that is what it was made for. */
  function done(duty_id: number | null) {
    setImporting(false);
    if (duty_id !== null && duty_id !== inForce) pick(duty_id);
  }
  const busy = draft !== null || importing;
  const [first, rest] = sorted(duties.data ?? [], machine.data, machine.data?.duty_id ?? null);
  const choiceOf = (row: Schemas["DutyOut"]) => (
    <div key={row.id} className="flex items-start border-t border-hairline has-checked:border-ink">
      <label className="flex flex-1 cursor-pointer gap-2.5 px-1 py-2 has-checked:bg-paper has-focus-visible:outline-2">
        <input
          type="radio"
          name="duty"
          className="mt-1 accent-ink"
          checked={row.id === inForce}
          onChange={() => pick(row.id)}
        />
        <span>
          <span className="font-semibold">{row.name}</span>
          <span className="condensed block text-xs text-muted">
            {kindWords[row.shape.kind]}
            {row.note && ` · ${row.note}`}
          </span>
        </span>
      </label>
      {row.id !== inForce && (
        <button
          type="button"
          aria-label={`Remove ${row.name}`}
          className="px-2 py-2"
          onClick={() => remove.mutate({ row: row.id, removed: true }, { onSuccess: () => setGone(row) })}
        >
          ×
        </button>
      )}
    </div>
  );
  return (
    <>
      <StageTitle
        title="What it is asked to do"
        note="Pick a duty, or make the one it really has: everything else in the application follows it."
      />
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! lg:grid-cols-[17rem_1fr]">
        <div>
          <fieldset aria-busy={picked !== null}>
            <legend className="sr-only">Duty in force</legend>
            {first.map(choiceOf)}
            {rest.length > 0 && (
              <details className="border-t border-hairline">
                <summary className="cursor-pointer px-1 py-2">
                  Duties of other kinds of machine ({rest.length})
                </summary>
                {rest.map(choiceOf)}
              </details>
            )}
          </fieldset>
          {choose.error && (
            <Failure text={problemText(choose.error)} retry={() => pick(choose.variables.duty_id)} />
          )}
          {remove.error && <Failure text={problemText(remove.error)} />}
          {gone && (
            <p role="note" className="mt-1 flex items-center gap-3">
              {gone.name} is out of the list.
              <Button
                onClick={() =>
                  remove.mutate({ row: gone.id, removed: false }, { onSuccess: () => setGone(null) })
                }
              >
                Undo
              </Button>
            </p>
          )}
          <AddDuty duties={duties.data ?? []} onImport={() => setImporting(true)} />
        </div>
        {importing && <RunImport machineId={id} onDone={done} />}
        {!importing && draft && <DutyEditor machineId={id} draft={draft} onDone={done} />}
        {!busy && (
          <InForce machineId={id} duty={duty} inForce={inForce} kept={machine.data?.duty_id ?? null} />
        )}
      </div>
      {!busy && inForce !== null && machine.data?.duty_id === inForce && (
        <div className="mt-8 grid gap-x-10 gap-y-8 border-t border-ink pt-4 bay:grid-cols-1! lg:grid-cols-2">
          <Questions machineId={id} />
          <Calibrate machineId={id} runId={duty ? runOf(duty) : null} />
        </div>
      )}
    </>
  );
}

/** Ways to a duty of one's own: typed, or from a logger's file. */
function AddDuty({ duties, onImport }: { duties: Schemas["DutyOut"][]; onImport: () => void }) {
  const circuits = useCircuits().data ?? [];
  const id = useMachineId();
  return (
    <div className="mt-3 border-t border-ink pt-2">
      <h2 className="font-semibold">Add a duty</h2>
      <ul>
        {typedKinds.map((kind) => (
          <li key={kind}>
            <button
              type="button"
              className="min-h-6 py-1 text-left underline underline-offset-2"
              onClick={() => setDutyDraft(id, { duty_id: null, body: newBody(kind, circuits, duties) })}
            >
              {kindWords[kind][0]?.toUpperCase()}
              {kindWords[kind].slice(1)}
            </button>
          </li>
        ))}
        <li>
          <button
            type="button"
            className="min-h-6 py-1 text-left underline underline-offset-2"
            onClick={onImport}
          >
            From a logger's file
          </button>
        </li>
      </ul>
    </div>
  );
}

type InForceProps = {
  machineId: number;
  duty: Schemas["DutyOut"] | undefined;
  inForce: number | null;
  /** The duty the server has for the machine: another one while a choice is on its way. */
  kept: number | null;
};

/** The duty in force, drawn, with what can be done with it. */
function InForce({ machineId, duty, inForce, kept }: InForceProps) {
  const [whole, setWhole] = useState(false);
  const all = useDutyTrace(machineId, inForce, null);
  // A session is drawn by its first laps: close enough to see each stop, and the rest repeats them.
  const first = all.data?.lap_s && !all.isPlaceholderData && !whole ? all.data.lap_s * FIRST_LAPS : null;
  const close = useDutyTrace(machineId, first === null ? null : inForce, first);
  const trace = first !== null && close.data && !close.isPlaceholderData ? { ...all, data: close.data } : all;
  return (
    <section aria-label="The duty drawn" aria-busy={trace.isFetching} className="min-w-0">
      {trace.error && <Failure text={problemText(trace.error)} retry={() => trace.refetch()} />}
      {trace.isPending && inForce !== null && <Working>Driving the duty on the fitted set…</Working>}
      {inForce === null && (
        <p>No duty yet. Pick the one that is nearest to what this machine does, or add it.</p>
      )}
      {duty && trace.data && (
        <Drawn
          duty={duty}
          trace={trace.data}
          stale={trace.isPlaceholderData}
          whole={whole}
          onWhole={setWhole}
        />
      )}
      {duty && kept === inForce && (
        <>
          <div className="mt-3 flex flex-wrap gap-3">
            <LinkButton primary to={`/m/${machineId}/choose`}>
              See which pads live through it
            </LinkButton>
            <Button onClick={() => setDutyDraft(machineId, { duty_id: duty.id, body: bodyOf(duty) })}>
              Change this duty
            </Button>
            <Button
              onClick={() =>
                setDutyDraft(machineId, {
                  duty_id: null,
                  body: { ...bodyOf(duty), name: `${duty.name}, copy` },
                })
              }
            >
              Copy it
            </Button>
          </div>
          <p className="mt-2">
            <a className="underline underline-offset-2" href={`/api/machines/${machineId}/case`} download>
              Save as a case file
            </a>
            <span className="condensed text-muted">
              {" "}
              · machine, set and duty in one file; the command line solves it to the same numbers
            </span>
          </p>
        </>
      )}
    </section>
  );
}

/** What the energy means to someone who has never seen a megajoule. */
function meaning(energyJ: number): string {
  // Water from 20 to 100 degC takes 335 kJ per litre.
  const litres = energyJ / 335_000;
  return `enough heat to bring ${litres < 10 ? litres.toFixed(1) : Math.round(litres)} litres of water to the boil`;
}

type DrawnProps = {
  duty: Schemas["DutyOut"];
  trace: Schemas["TraceOut"];
  stale: boolean;
  whole: boolean;
  onWhole: (whole: boolean) => void;
};

function Drawn({ duty, trace, stale, whole, onWhole }: DrawnProps) {
  const units = useUnits();
  const end = trace.t_s[trace.t_s.length - 1] ?? 0;
  const session = duty.shape.kind === "session" ? duty.shape : null;
  const laps = trace.lap_s !== null && session !== null && session.laps > FIRST_LAPS;
  const perLap = session && trace.energy_per_event_J / session.laps;
  return (
    <div className={stale ? "opacity-50" : ""}>
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-base font-semibold">{duty.name}</h2>
        {laps && (
          <label className="condensed flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-ink"
              checked={whole}
              onChange={(event) => onWhole(event.target.checked)}
            />
            Whole session, not only the first four laps
          </label>
        )}
      </div>
      <DutyTrace trace={trace} until={end} system={units.system} />
      <dl className="mt-3 flex flex-wrap gap-x-8 gap-y-2">
        <Figure
          label="Brake energy, one event"
          value={<Why topic="energy">{units.figure(trace.energy_per_event_J, "energy")}</Why>}
          unit="MJ"
        />
        {trace.lap_s !== null && perLap !== null && (
          <Figure
            label={session && session.cool_down_laps > 0 ? "per lap" : "per run"}
            value={<Why topic="energy">{units.figure(perLap, "energy")}</Why>}
            unit="MJ"
          />
        )}
        {trace.lap_s !== null && (
          <Figure
            label="Lap"
            value={trace.lap_s.toFixed(1)}
            unit={`s, ${units.withUnit((trace.lap_km ?? 0) * 1, "distance", 2)}`}
          />
        )}
        <Figure
          label={`per ${units.symbol("distance")} on the odometer`}
          value={
            <Why topic="energy">
              {units.figure(trace.energy_per_km_J / unitOf("distance", units.system).factor, "energy", 3)}
            </Why>
          }
          unit="MJ"
        />
        <Figure
          label="Time on the brakes"
          value={<Why topic="braking_share">{(100 * trace.braking_share).toFixed(0)}</Why>}
          unit="%"
        />
        <Figure
          label="Event"
          value={hoursText(trace.event_hours)}
          unit={`driven, ${units.withUnit(trace.event_km, "distance")} with the way there`}
        />
        <Figure label="How often" value={duty.events_per_month.toString()} unit="a month" />
      </dl>
      <p className="mt-3 max-w-prose">
        One event puts {units.figure(trace.energy_per_event_J, "energy")} MJ into the brakes:{" "}
        {meaning(trace.energy_per_event_J)}.
      </p>
      {trace.warnings.map((warning) => (
        <p key={warning.template} className="mt-1">
          <StateWord state="over">{units.say(warning)}</StateWord>
        </p>
      ))}
    </div>
  );
}
