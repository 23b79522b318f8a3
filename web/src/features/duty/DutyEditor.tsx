import { useEffect, useRef, useState } from "react";
import { useRefused } from "../../api/refused";
import { DutyTrace } from "../../charts/DutyTrace";
import { useUnits } from "../../lib/settings";
import { clockText } from "../../lib/text";
import { Button, Figure, StateWord, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useMachine } from "../machine/queries";
import { Conditions } from "./Conditions";
import {
  type Body,
  changeBody,
  type Draft,
  kindWords,
  setDutyDraft,
  useWords,
  wayKm,
  withShape,
} from "./drafts";
import { KindForm } from "./KindForm";
import { useDrive, useDuties, useSaveDuty } from "./queries";

type Props = { machineId: number; draft: Draft; onDone: (duty_id: number | null) => void };

/** A duty while it is being typed: what it would do to this machine is drawn beside it, and nothing is kept yet. */
export function DutyEditor({ machineId, draft, onDone }: Props) {
  const { body, duty_id } = draft;
  const units = useUnits();
  const machine = useMachine(machineId).data;
  const duties = useDuties().data ?? [];
  const save = useSaveDuty();
  const changed = (change: (now: Body) => Partial<Body>) => changeBody(machineId, duty_id, change);
  const set = (change: Partial<Body>) => changed(() => change);
  const [drawing, setDrawing] = useState(false);
  // Driven after a short pause under a name of its own: the name does not matter to the brakes.
  const [asked, setAsked] = useState<Body | null>(null);
  useEffect(() => {
    const { name: _, note: __, ...rest } = body;
    const timer = setTimeout(() => setAsked({ ...rest, name: "tried", note: "" }), 300);
    return () => clearTimeout(timer);
  }, [body]);
  const drive = useDrive(machineId, asked);
  // The list it was opened from may be longer than the screen: bring its first line into view.
  const head = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    head.current?.scrollIntoView({ block: "start" });
  }, []);
  const way = wayKm(body.shape, drive.data?.lap_km ?? null);
  const driven = drive.isPlaceholderData ? undefined : drive.data;
  const lap = driven?.lap_km && driven.lap_s ? { km: driven.lap_km, s: driven.lap_s } : null;
  const laps = body.shape.kind === "session" ? body.shape.laps + body.shape.cool_down_laps : 0;
  // One event is at least its own kilometres: wear and dates are counted by them.
  const short = way !== null && body.event_km < 0.98 * way;
  const [asking, setAsking] = useState(false);
  const [sure, setSure] = useState(false);
  return (
    <Form
      begin
      label={duty_id === null ? "A new duty" : "Change the duty"}
      className="min-w-0"
      refused={useRefused(save.error ?? drive.error)}
      onSend={() => {
        if (drawing) return;
        if (short && !sure) {
          setAsking(true);
          return;
        }
        save.mutate(
          { duty_id, body: { ...body, name: body.name.trim() } },
          {
            onSuccess: (kept) => {
              setDutyDraft(machineId, null);
              onDone(kept.id);
            },
          },
        );
      }}
    >
      <h2 ref={head} className="scroll-mt-4 text-base font-semibold">
        {duty_id === null ? "New" : "Change"}: {kindWords[body.shape.kind]}
      </h2>
      <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-3 border-t border-ink pt-2 sm:grid-cols-4">
        <TextField
          label="Name of the duty"
          value={body.name}
          required
          path="name"
          onChange={(name) => set({ name })}
        />
        <TextField label="Note" value={body.note} path="note" onChange={(note) => set({ note })} />
        <SelectField
          label="Kind of use"
          value={body.use}
          options={useWords}
          onChange={(use) => set({ use: use as Body["use"] })}
        />
        <span />
        <NumberField
          label="Events a month"
          quantity="count"
          system={units.system}
          value={body.events_per_month}
          path="events_per_month"
          onCommit={(value) => value !== null && set({ events_per_month: value })}
        />
        <NumberField
          label="Odometer, one event"
          quantity="distance"
          system={units.system}
          value={body.event_km}
          hint={
            way === null
              ? "the way there and back too"
              : `${units.withUnit(way, "distance", 1)} of it on the duty`
          }
          path="event_km"
          onCommit={(value) => value !== null && set({ event_km: value })}
        />
      </div>
      <div className="mt-4 border-t border-ink pt-2">
        <KindForm
          shape={body.shape}
          set={(change) => changed(withShape(body.shape.kind, change))}
          onDrawing={setDrawing}
          lap={lap}
          duties={duties}
          dutyId={duty_id}
        />
      </div>
      <Conditions
        body={body}
        set={set}
        change={(part) => changed(({ conditions }) => ({ conditions: { ...conditions, ...part } }))}
        machine={machine}
      />
      <div className="mt-4 border-t border-ink pt-3" aria-busy={drive.isFetching}>
        {drive.isPending && !drive.error && <Working>Driving it…</Working>}
        {drive.data && !drive.error && (
          <>
            <DutyTrace
              trace={drive.data}
              until={drive.data.t_s[drive.data.t_s.length - 1] ?? 0}
              system={units.system}
            />
            <dl className="mt-2 flex flex-wrap gap-x-8 gap-y-2" data-drive>
              <Figure
                label="Brake energy, one event"
                value={units.figure(drive.data.energy_per_event_J, "energy")}
                unit="MJ"
              />
              <Figure
                label="Hottest ring with the fitted set"
                value={units.figure(
                  Math.max(...drive.data.front_surface_C, ...drive.data.rear_surface_C),
                  "temperature",
                )}
                unit={units.symbol("temperature")}
              />
              {lap && laps > 0 && (
                <Figure
                  label={`One lap, of ${laps}`}
                  value={clockText(lap.s)}
                  unit={`min:s, ${clockText(lap.s * laps)} and ${units.withUnit(lap.km * laps, "fineDistance")} in all`}
                />
              )}
              <Figure
                label="Time on the brakes"
                value={(100 * drive.data.braking_share).toFixed(0)}
                unit="%"
              />
            </dl>
            {drive.data.warnings.map((warning) => (
              <p key={warning.template}>
                <StateWord state="over">{units.say(warning)}</StateWord>
              </p>
            ))}
          </>
        )}
      </div>
      {asking && short && way !== null && (
        <div role="alert" className="mt-3 border-l-2 border-close-fill pl-3">
          <p>
            ◐ {units.withUnit(body.event_km, "distance")} on the odometer, and the duty alone is{" "}
            {units.withUnit(way, "distance", 1)}: wear by distance would come out too high. Which is meant?
          </p>
          <p className="mt-1 flex flex-wrap gap-2">
            <Button
              onClick={() => {
                set({ event_km: Math.ceil(way) });
                setAsking(false);
              }}
            >
              Make it {units.withUnit(Math.ceil(way), "distance")}
            </Button>
            <Button
              onClick={() => {
                setSure(true);
                setAsking(false);
              }}
            >
              Leave {units.withUnit(body.event_km, "distance")}
            </Button>
          </p>
        </div>
      )}
      <div className="mt-3 flex flex-wrap gap-3">
        <Button type="submit" primary disabled={!body.name.trim() || drawing || save.isPending}>
          {duty_id === null ? "Keep this duty" : "Save the change"}
        </Button>
        <Button
          onClick={() => {
            setDutyDraft(machineId, null);
            onDone(null);
          }}
        >
          Put it away
        </Button>
        {drawing && <span className="condensed self-center text-muted">Keep the circuit first.</span>}
        {!body.name.trim() && <span className="condensed self-center text-muted">It needs a name.</span>}
      </div>
    </Form>
  );
}
