import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { todayIso } from "../../lib/text";
import { Button } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { Form } from "../../ui/Form";
import { Labelled, SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useDuties } from "../duty/queries";
import { useFluids } from "../machine/queries";
import { useShelf } from "./queries";
import { type Change, useSeasonChange } from "./sending";

type Event = Schemas["EventOut"];
type Body = Schemas["PlanAsk"];

function bodyOf(event: Event | undefined, duty_id: number): Body {
  return {
    name: event?.name ?? "",
    on: event?.on ?? todayIso(),
    until_on: event?.until_on ?? null,
    starts_at: event?.starts_at ?? null,
    ends_at: event?.ends_at ?? null,
    duty_id: event?.duty_id ?? duty_id,
    sessions: event?.sessions ?? 1,
    front_pads_id: event?.front_pads_id ?? null,
    rear_pads_id: event?.rear_pads_id ?? null,
    fluid_id: event?.fluid_id ?? null,
    road_km: event?.road_km ?? 0,
    air_C: event?.air_C ?? null,
    note: event?.note ?? "",
    every_days: null,
    times: 1,
  };
}

/** "09:00:00" of the data is "09:00" in its box. */
const shortTime = (time: string | null | undefined) => time?.slice(0, 5) ?? "";
const numberOrNull = (text: string) => (text === "" ? null : Number(text));

const changeTo = (body: Body, event: Event | undefined): Change =>
  event
    ? { kind: "change", event: event.id, body: { ...body, version: event.version } }
    : { kind: "plan", body };

type Props = { machineId: number; event?: Event; duty_id: number; onDone: () => void };

/** An event as it is planned: when, what it asks, on which sets and fluid, and the road there and back. */
export function EventForm({ machineId, event, duty_id, onDone }: Props) {
  const { system } = useUnits();
  const sent = useSeasonChange(machineId);
  const duties = useDuties();
  const shelf = useShelf(machineId);
  const fluids = useFluids();
  const [body, setBody] = useState(() => bodyOf(event, duty_id));
  const set = (part: Partial<Body>) => setBody({ ...body, ...part });
  const number = (name: "sessions" | "road_km") => (value: number | null) =>
    value !== null && set({ [name]: value });
  const sets = (axle: "front" | "rear") =>
    (shelf.data ?? [])
      .filter((thing) => thing.kind === "pads" && thing.axle === axle && (thing.fits || thing.on_machine))
      .map(
        (thing) => [String(thing.id), `${thing.name}${thing.on_machine ? ", on it" : ", shelf"}`] as const,
      );
  const time = (label: string, name: "starts_at" | "ends_at") => (
    <Labelled label={label}>
      {(attributes) => (
        <input
          {...attributes}
          type="time"
          className="figures h-8 rounded-xs border border-ink bg-paper px-2 max-md:h-11"
          value={shortTime(body[name])}
          onChange={(change) => set({ [name]: change.target.value || null })}
        />
      )}
    </Labelled>
  );
  return (
    <Form
      label={event ? "Change this event" : "Plan an event"}
      begin
      className="my-3 grid grid-cols-2 items-end gap-3 border border-hairline p-3 md:grid-cols-4"
      refused={useRefused(sent.error)}
      onSend={() => sent.mutate({ name: body.name, change: changeTo(body, event) }, { onSuccess: onDone })}
    >
      <TextField
        label="Event"
        path="name"
        value={body.name}
        required
        wide
        onChange={(name) => set({ name })}
      />
      <DateField label="Day" path="on" value={body.on} required onChange={(on) => set({ on })} />
      <DateField
        label="Last day, if more"
        path="until_on"
        value={body.until_on ?? ""}
        onChange={(day) => set({ until_on: day || null })}
      />
      <SelectField
        label="What it asks"
        value={String(body.duty_id)}
        options={(duties.data ?? []).map((duty) => [String(duty.id), duty.name] as const)}
        onChange={(id) => set({ duty_id: Number(id) })}
      />
      <NumberField
        label="How many times"
        path="sessions"
        quantity="plain"
        value={body.sessions ?? 1}
        system={system}
        onChange={number("sessions")}
      />
      {time("Begins, empty for a whole day", "starts_at")}
      {time("Ends", "ends_at")}
      <SelectField
        label="Front pads"
        value={String(body.front_pads_id ?? "")}
        options={[["", "what is on that day"], ...sets("front")]}
        onChange={(id) => set({ front_pads_id: numberOrNull(id) })}
      />
      <SelectField
        label="Rear pads"
        value={String(body.rear_pads_id ?? "")}
        options={[["", "what is on that day"], ...sets("rear")]}
        onChange={(id) => set({ rear_pads_id: numberOrNull(id) })}
      />
      <SelectField
        label="Fluid"
        value={String(body.fluid_id ?? "")}
        options={[
          ["", "what is in it"],
          ...(fluids.data ?? []).map((fluid) => [String(fluid.id), `fresh ${fluid.name}`] as const),
        ]}
        onChange={(id) => set({ fluid_id: numberOrNull(id) })}
      />
      <NumberField
        label="By road there and back"
        path="road_km"
        quantity="distance"
        value={body.road_km ?? 0}
        system={system}
        onChange={number("road_km")}
      />
      <NumberField
        label="Air that day, if known"
        path="air_C"
        quantity="temperature"
        nullable
        value={body.air_C ?? null}
        system={system}
        onChange={(air_C) => set({ air_C })}
      />
      {!event && (
        <>
          <NumberField
            label="Again every so many days"
            path="every_days"
            quantity="count"
            nullable
            value={body.every_days ?? null}
            system={system}
            onChange={(days) => set({ every_days: days })}
          />
          <NumberField
            label="In all"
            path="times"
            quantity="count"
            value={body.times ?? 1}
            system={system}
            onChange={(times) => times !== null && set({ times })}
          />
        </>
      )}
      <TextField label="Note" path="note" value={body.note ?? ""} wide onChange={(note) => set({ note })} />
      <div className="col-span-full flex gap-2">
        <Button type="submit" primary disabled={sent.isPending || !body.on}>
          {event ? "Keep" : "Plan it"}
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </Form>
  );
}
