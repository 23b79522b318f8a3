import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { todayIso } from "../../lib/text";
import { Button, Failure, GroupTitle, LinkButton, StateWord } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { CheckField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { Gone } from "../../ui/TakeOut";
import { EventForm } from "./EventForm";
import { EventsWaiting, useWaitingEvents } from "./EventsWaiting";
import { useSeasonChange } from "./sending";
import { type Event, whenText } from "./when";

type Season = Schemas["SeasonOut"];

/** Events that ask for a word, those planned, and those that are over. */
export function Events({
  machineId,
  season,
  duty_id,
}: {
  machineId: number;
  season: Season;
  duty_id: number;
}) {
  const remove = useSeasonChange(machineId);
  const takeOut = (event: Event, removed: boolean) =>
    remove.mutate(
      { name: event.name, change: { kind: "removed", event: event.id, removed } },
      // Kept on this device it stands among what waits, to be taken back there.
      { onSuccess: (arrived) => setGone(removed && arrived ? event : null) },
    );
  const [gone, setGone] = useState<Event | null>(null);
  const waits = useWaitingEvents(machineId);
  const row = (event: Event) => (
    <EventRow
      key={event.id}
      machineId={machineId}
      event={event}
      duty_id={duty_id}
      odometer_km={season.odometer_km}
      waits={waits.has(event.id)}
      onRemove={() => takeOut(event, true)}
    />
  );
  return (
    <section aria-label="Events" className="mt-6">
      <EventsWaiting machineId={machineId} events={[...season.waiting, ...season.planned, ...season.over]} />
      {season.waiting.length > 0 && (
        <>
          <GroupTitle>Was it driven?</GroupTitle>
          <ul className="mb-4 border-t border-ink">{season.waiting.map(row)}</ul>
        </>
      )}
      {gone && <Gone name={gone.name} from="out of the calendar" onUndo={() => takeOut(gone, false)} />}
      {remove.error && <Failure text={problemText(remove.error)} />}
      {season.planned.length > 0 && (
        <>
          <GroupTitle>Planned</GroupTitle>
          <ul className="border-t border-ink">{season.planned.map(row)}</ul>
        </>
      )}
      {season.over.length > 0 && (
        <details className="mt-4">
          <summary className="cursor-pointer font-semibold">Over ({season.over.length})</summary>
          <ul className="mt-2 border-t border-ink">{season.over.map(row)}</ul>
        </details>
      )}
    </section>
  );
}

type RowProps = {
  machineId: number;
  event: Event;
  duty_id: number;
  odometer_km: number;
  waits: boolean;
  onRemove: () => void;
};

function EventRow({ machineId, event, duty_id, odometer_km, waits, onRemove }: RowProps) {
  const units = useUnits();
  const back = useSeasonChange(machineId);
  const [open, setOpen] = useState<"" | "change" | "driven">("");
  const sets = [...new Set([event.front_pads, event.rear_pads].filter(Boolean))].join(" and ");
  const about = [
    `${event.sessions === 1 ? "" : `${event.sessions} × `}${event.duty}`,
    sets && `on ${sets}`,
    event.fluid && `fresh ${event.fluid}`,
    event.road_km > 0 && `${units.withUnit(event.road_km, "distance")} by road`,
    event.air_C !== null && `air ${units.withUnit(event.air_C, "temperature")}`,
  ].filter(Boolean);
  const past = event.on <= todayIso();
  return (
    <li data-event={event.id} className="border-b border-hairline py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span className="font-semibold">{event.name}</span>
        <span className="condensed">{whenText(event)}</span>
      </div>
      <p className="condensed text-muted">{about.join(" · ")}</p>
      {event.note && <p className="condensed text-muted">{event.note}</p>}
      <div className="mt-1 flex flex-wrap items-center gap-2">
        {waits ? (
          <StateWord state="close">changed on this device only, see above</StateWord>
        ) : event.state === "planned" ? (
          <>
            {event.on >= todayIso() && (
              <LinkButton small to={`/m/${machineId}/ready/${event.id}`}>
                Ready for it?
              </LinkButton>
            )}
            {past && (
              <Button small primary onClick={() => setOpen(open === "driven" ? "" : "driven")}>
                Driven
              </Button>
            )}
            <Button small onClick={() => setOpen(open === "change" ? "" : "change")}>
              Change
            </Button>
            <Button small onClick={onRemove}>
              Take out
            </Button>
          </>
        ) : (
          <>
            <StateWord state="fine">
              {event.state === "driven"
                ? `driven${event.driven_sessions === event.sessions ? "" : `, ${event.driven_sessions} of ${event.sessions}`}, odometer ${units.withUnit(event.driven_km ?? 0, "distance")}`
                : "left out"}
            </StateWord>
            <Button
              small
              disabled={back.isPending}
              onClick={() => back.mutate({ name: event.name, change: { kind: "planned", event: event.id } })}
            >
              Take that back
            </Button>
          </>
        )}
      </div>
      {back.error && <Failure text={problemText(back.error)} />}
      {open === "change" && (
        <EventForm machineId={machineId} event={event} duty_id={duty_id} onDone={() => setOpen("")} />
      )}
      {open === "driven" && (
        <Driven machineId={machineId} event={event} odometer_km={odometer_km} onDone={() => setOpen("")} />
      )}
    </li>
  );
}

type DrivenProps = { machineId: number; event: Event; odometer_km: number; onDone: () => void };

/** Close the loop: how much of it was driven, and the odometer after it. */
function Driven({ machineId, event, odometer_km, onDone }: DrivenProps) {
  const { system } = useUnits();
  const say = useSeasonChange(machineId);
  const [sessions, setSessions] = useState<number | null>(event.sessions);
  const [km, setKm] = useState<number | null>(odometer_km);
  const [backOn, setBackOn] = useState(true);
  const swapped = event.front_pads_id !== null || event.rear_pads_id !== null;
  const send = (left_out: boolean) =>
    say.mutate(
      {
        name: event.name,
        change: {
          kind: "driven",
          event: event.id,
          body: { sessions: sessions ?? 0, odometer_km: km ?? odometer_km, left_out, back_on: backOn },
        },
      },
      { onSuccess: onDone },
    );
  return (
    <Form
      label="What became of it"
      begin
      className="mt-2 flex flex-wrap items-end gap-3 border border-hairline p-3"
      refused={useRefused(say.error)}
      onSend={() => send(false)}
    >
      <div className="w-40">
        <NumberField
          label={`Driven, of ${event.sessions}`}
          path="sessions"
          quantity="plain"
          value={event.sessions}
          system={system}
          onChange={setSessions}
        />
      </div>
      <div className="w-40">
        <NumberField
          label="Odometer after it"
          path="odometer_km"
          quantity="distance"
          value={odometer_km}
          system={system}
          onChange={setKm}
        />
      </div>
      {swapped && (
        <CheckField checked={backOn} onChange={setBackOn}>
          what was on before is on again
        </CheckField>
      )}
      <Button type="submit" primary disabled={say.isPending || sessions === null || km === null}>
        It was driven
      </Button>
      <Button disabled={say.isPending} onClick={() => send(true)}>
        It was left out
      </Button>
    </Form>
  );
}
