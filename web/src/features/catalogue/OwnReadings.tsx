import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useHand } from "../../lib/hand";
import { useUnits } from "../../lib/settings";
import { dateText, todayIso } from "../../lib/text";
import type { Quantity } from "../../lib/units";
import { Button, Caution, Failure, GroupTitle } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { TakeOut } from "../../ui/TakeOut";
import { useMachines } from "../workshop/queries";
import { useBrakingFriction, useKeepReading, useRemoveReading, useUseOwn } from "./queries";

type Compound = Schemas["CompoundOut"];

/** Friction the workshop measured itself, beside the maker's curve: typed, or worked out of one braking. */
export function OwnReadings({ compound }: { compound: Compound }) {
  const units = useUnits();
  const keep = useKeepReading(compound.id);
  const remove = useRemoveReading();
  const use = useUseOwn(compound.id);
  const [wanted, want] = useHand<boolean>();
  const [ring, setRing] = useState<number | null>(null);
  const [mu, setMu] = useState<number | null>(null);
  const [how, setHow] = useState("");
  const [gone, setGone] = useState<Schemas["OwnMuOut"] | null>(null);
  const apart = Math.round(100 * (compound.own_ratio - 1));
  return (
    <section aria-label={`Own readings of ${compound.name}`} className="mt-4 border-t border-ink pt-3">
      <GroupTitle>Own readings of {compound.name}</GroupTitle>
      {compound.bedding && (
        <p className="mb-2 max-w-prose">Bedding, in the maker's words: {compound.bedding}</p>
      )}
      {compound.own.length === 0 ? (
        <p className="text-muted">
          None yet. A pedal gauge, an accelerometer and the ring's temperature are enough for one.
        </p>
      ) : (
        <>
          <p data-own-ratio>
            {apart === 0
              ? "They lie on the curve"
              : `They lie ${Math.abs(apart)} % ${apart < 0 ? "below" : "above"} the curve`}
            , give or take {Math.round(100 * compound.own_sigma)} %.
          </p>
          <ul className="my-1 max-w-2xl">
            {compound.own.map((row) => (
              <li
                key={row.id}
                className="flex flex-wrap items-baseline gap-x-4 border-t border-hairline py-1"
              >
                <span className="figures">
                  {row.mu.toFixed(3)} at {units.withUnit(row.temperature_C, "temperature")}
                </span>
                <span className="condensed text-muted">
                  curve {row.curve_mu.toFixed(3)} · {dateText(row.measured_on)}
                  {row.how && ` · ${row.how}`}
                </span>
                <TakeOut
                  className="ml-auto text-xs"
                  of={row.mu.toFixed(3)}
                  onClick={() =>
                    remove.mutate({ row: row.id, removed: true }, { onSuccess: () => setGone(row) })
                  }
                />
              </li>
            ))}
          </ul>
        </>
      )}
      {gone && (
        <p role="note">
          {gone.mu.toFixed(3)} is out.{" "}
          <button
            type="button"
            className="underline underline-offset-2"
            onClick={() =>
              remove.mutate({ row: gone.id, removed: false }, { onSuccess: () => setGone(null) })
            }
          >
            Undo
          </button>
        </p>
      )}
      {(compound.own.length > 0 || compound.use_own) && (
        <label className="my-2 flex min-h-8 items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-ink"
            checked={wanted ?? compound.use_own}
            onChange={(event) =>
              want(event.target.checked, use.mutateAsync({ use_own: event.target.checked }))
            }
          />
          Compute with them: the whole curve × {compound.own_ratio.toFixed(2)}, on every machine
        </label>
      )}
      {(keep.error || remove.error || use.error) && (
        <Failure text={problemText(keep.error ?? remove.error ?? (use.error as Error))} />
      )}
      <Form
        className="mt-2 flex flex-wrap items-start gap-3"
        onSend={() => {
          if (ring === null || mu === null) return;
          keep.mutate(
            { temperature_C: ring, mu, measured_on: todayIso(), how },
            {
              onSuccess: () => {
                setRing(null);
                setMu(null);
                setHow("");
              },
            },
          );
        }}
      >
        <Box label="Ring temperature" quantity="temperature" value={ring} onChange={setRing} />
        <Box label="Friction" quantity="friction" value={mu} onChange={setMu} />
        <div className="w-56">
          <TextField label="How it was measured" value={how} onChange={setHow} />
        </div>
        <Button type="submit" className="mt-4" disabled={ring === null || mu === null || keep.isPending}>
          Keep the reading
        </Button>
      </Form>
      <FromBraking
        compound={compound}
        onFound={(found, text) => {
          setMu(found);
          setHow(text);
        }}
      />
    </section>
  );
}

type BoxProps = {
  label: string;
  quantity: Quantity;
  value: number | null;
  onChange: (value: number | null) => void;
};

/** One number that was read off, in the reader's unit; empty until it is typed. */
function Box({ onChange, ...rest }: BoxProps) {
  const { system } = useUnits();
  return <NumberField {...rest} system={system} nullable placeholder="" onChange={onChange} />;
}

type FromProps = { compound: Compound; onFound: (mu: number, how: string) => void };

/** Friction out of one steady braking of a machine that has the compound on. */
function FromBraking({ compound, onFound }: FromProps) {
  const units = useUnits();
  const machines = useMachines();
  const braking = useBrakingFriction();
  const [machine, setMachine] = useState<number | null>(null);
  const [pedal, setPedal] = useState<number | null>(null);
  const [decel, setDecel] = useState<number | null>(null);
  const [speed, setSpeed] = useState<number | null>(null);
  const rows = machines.data ?? [];
  const chosen = machine ?? rows[0]?.id ?? null;
  const ready = chosen !== null && pedal !== null && decel !== null && speed !== null;
  const other = braking.data && braking.data.pad_id !== compound.id;
  return (
    <details className="mt-3">
      <summary className="cursor-pointer underline underline-offset-2">
        Work friction out of one braking
      </summary>
      <Form
        className="mt-2 flex flex-wrap items-start gap-3"
        onSend={() => {
          if (!ready) return;
          const name = rows.find((row) => row.id === chosen)?.name ?? "";
          braking.mutate(
            { machine: chosen, pedal_N: pedal, decel_mps2: decel, speed_mps: speed },
            {
              onSuccess: (found) => {
                if (found.pad_id === compound.id)
                  onFound(
                    Number(found.mu.toFixed(3)),
                    `${name}: ${units.withUnit(pedal, "force")} gave ${units.withUnit(decel, "decel")}`,
                  );
              },
            },
          );
        }}
      >
        <div className="w-48">
          <SelectField
            label="Machine with these pads on"
            value={String(chosen ?? "")}
            options={rows.map((row) => [String(row.id), row.name] as const)}
            onChange={(value) => setMachine(Number(value))}
          />
        </div>
        <Box label="Pedal force" quantity="force" value={pedal} onChange={setPedal} />
        <Box label="Deceleration" quantity="decel" value={decel} onChange={setDecel} />
        <Box label="Speed at it" quantity="speed" value={speed} onChange={setSpeed} />
        <Button type="submit" className="mt-4" disabled={!ready || braking.isPending}>
          Work it out
        </Button>
      </Form>
      {braking.error && <Failure text={problemText(braking.error)} />}
      {other && (
        <Failure
          text={`That machine has ${braking.data?.pad} on, not ${compound.name}: with it the friction is ${braking.data?.mu.toFixed(3)}.`}
        />
      )}
      {braking.data && !other && (
        <p data-worked-out>
          Friction <span className="figures font-semibold">{braking.data.mu.toFixed(3)}</span>, front and rear
          alike: it stands in the box above; add the ring's temperature.
        </p>
      )}
      <Caution>
        A straight, level, empty road or track within the law, a helper for the reading, steady braking short
        of locking, regeneration off.
      </Caution>
    </details>
  );
}
