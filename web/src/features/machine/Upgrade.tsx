import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { Button, Failure, StateWord, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { Cell, Row, RowHead, right, Table } from "../../ui/Table";
import { useSession } from "../session/queries";
import { fieldOf } from "./fields";
import { type Numbers, useCompare, useKeepSetUp, useRemoveSetUp, useSetUps, useUseSetUp } from "./queries";
import { rows as tableRows } from "./upgrade";

const offered = [
  "front.rotor.outer_radius_m",
  "front.rotor.inner_radius_m",
  "front.rotor.thickness_m",
  "front.piston_area_m2",
  "rear.rotor.outer_radius_m",
  "rear.rotor.inner_radius_m",
  "rear.piston_area_m2",
  "hydraulics.master_bore_m",
  "hydraulics.pedal_ratio",
  "hydraulics.rear_knee_Pa",
  "vehicle.tyre_grip",
  "vehicle.mass_kg",
];
const grave = new Set(["does_not_fit", "rear_first", "weak"]);

type Props = { machine: Schemas["MachineOut"]; values: Numbers; pedal: number };

/** The machine beside itself with other parts: what changes, what to watch out for, and set-ups to keep. */
export function Upgrade({ machine, values, pedal }: Props) {
  const units = useUnits();
  const [changes, setChanges] = useState<Numbers>({});
  const compared = useCompare(machine.id, changes, pedal);
  const tried = Object.keys(changes).length > 0;
  const set = (path: string, value: number | null) =>
    setChanges(({ [path]: _, ...rest }) =>
      value === null || value === values[path] ? rest : { ...rest, [path]: value },
    );
  return (
    <section aria-labelledby="upgrade" className="mt-8 border-t border-ink pt-3">
      <h2 id="upgrade" className="text-base font-semibold">
        What would other parts do?
      </h2>
      <p className="mb-3 max-w-3xl text-muted">
        Type what would be different. Nothing is changed on the machine until you put a set-up on it.
      </p>
      <div className="grid gap-x-8 gap-y-4 xl:grid-cols-[20rem_1fr]">
        <fieldset>
          <legend className="sr-only">Tried instead</legend>
          <div className="grid grid-cols-2 gap-x-4 gap-y-3">
            {offered.map((path) => {
              const field = fieldOf(path);
              const now = values[path] ?? null;
              if (!field || !(path in values)) return null;
              const side = path.startsWith("front.") ? ", front" : path.startsWith("rear.") ? ", rear" : "";
              return (
                <NumberField
                  key={path}
                  label={`${field.label}${side}`}
                  quantity={field.quantity}
                  system={units.system}
                  value={changes[path] ?? null}
                  nullable
                  placeholder={now === null ? "none" : units.figure(now, field.quantity)}
                  onChange={(value) => set(path, value)}
                />
              );
            })}
          </div>
          {tried && (
            <Button className="mt-3" onClick={() => setChanges({})}>
              Back to how it is
            </Button>
          )}
        </fieldset>
        <div className="min-w-0">
          {compared.error && <StateWord state="over">{problemText(compared.error)}</StateWord>}
          {compared.isPending && <Working>Comparing…</Working>}
          {compared.data && !compared.error && <Compared data={compared.data} tried={tried} />}
          {tried && compared.data && !compared.error && (
            <Keep machineId={machine.id} changes={changes} onKept={() => setChanges({})} />
          )}
        </div>
      </div>
      <SetUps machineId={machine.id} onTry={setChanges} />
    </section>
  );
}

function Compared({ data, tried }: { data: Schemas["CompareOut"]; tried: boolean }) {
  const units = useUnits();
  return (
    <>
      <Table
        width="max-w-2xl"
        data-compared
        heads={[
          `At this pedal force, rings at ${units.withUnit(200, "temperature")}`,
          right("as it is"),
          right("tried"),
          right("change"),
        ]}
      >
        <tbody>
          {tableRows(data, units.system).map((row) => (
            <Row key={row.name} data-row={row.name}>
              <RowHead>{row.name}</RowHead>
              <Cell figures>{row.before}</Cell>
              <Cell figures className="font-semibold">
                {tried ? row.after : "–"}
              </Cell>
              <Cell figures>{tried ? row.change : ""}</Cell>
            </Row>
          ))}
        </tbody>
      </Table>
      <ul className="mt-2 space-y-0.5" aria-label="What the change does">
        {data.remarks.map((remark) => (
          <li key={remark.code}>
            <StateWord state={grave.has(remark.code) ? "over" : "close"}>{units.say(remark.text)}</StateWord>
          </li>
        ))}
      </ul>
    </>
  );
}

function Keep({ machineId, changes, onKept }: { machineId: number; changes: Numbers; onKept: () => void }) {
  const keep = useKeepSetUp(machineId);
  const { system } = useUnits();
  const currency = useSession().data?.currency ?? "";
  const [name, setName] = useState("");
  const [price, setPrice] = useState<number | null>(null);
  return (
    <Form
      refused={useRefused(keep.error)}
      className="mt-3 flex flex-wrap items-start gap-3"
      onSend={() => {
        keep.mutate({ name: name.trim(), changes, price: price ?? undefined }, { onSuccess: onKept });
      }}
    >
      <div className="w-56">
        <TextField label="Name of this set-up" value={name} onChange={setName} />
      </div>
      <div className="w-48">
        <NumberField
          label={`What it costs, pads apart, ${currency}`}
          path="price"
          quantity="price"
          system={system}
          value={price}
          nullable
          placeholder="open"
          onCommit={setPrice}
        />
      </div>
      <Button type="submit" className="mt-3.5" disabled={!name.trim() || keep.isPending}>
        Keep as a set-up
      </Button>
    </Form>
  );
}

function SetUps({ machineId, onTry }: { machineId: number; onTry: (changes: Numbers) => void }) {
  const setUps = useSetUps(machineId);
  const use = useUseSetUp(machineId);
  const remove = useRemoveSetUp(machineId);
  const currency = useSession().data?.currency ?? "";
  const [gone, setGone] = useState<{ row: number; name: string } | null>(null);
  if (!setUps.data?.length && !gone) return null;
  return (
    <div className="mt-5">
      <h3 className="font-semibold">Set-ups of this machine</h3>
      <ul>
        {(setUps.data ?? []).map((row) => (
          <li
            key={row.id}
            data-set-up={row.name}
            className="flex flex-wrap items-center gap-3 border-t border-hairline py-1.5"
          >
            <span className="min-w-48 flex-1">
              {row.name}
              <span className="condensed block text-xs text-muted">
                {Object.keys(row.changes)
                  .map((path) => fieldOf(path)?.label ?? path)
                  .join(", ")}
                {row.price === null
                  ? " · price not known"
                  : ` · ${currency}${row.price.toFixed(0)}, pads apart`}
              </span>
            </span>
            <Button onClick={() => onTry(row.changes)}>Compare</Button>
            <Button onClick={() => use.mutate(row.id)}>Put it on</Button>
            <Button
              onClick={() =>
                remove.mutate(
                  { row: row.id, removed: true },
                  { onSuccess: () => setGone({ row: row.id, name: row.name }) },
                )
              }
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      {gone && (
        <p className="mt-1 flex items-center gap-3">
          {gone.name} is out of the list.
          <Button
            onClick={() =>
              remove.mutate({ row: gone.row, removed: false }, { onSuccess: () => setGone(null) })
            }
          >
            Undo
          </Button>
        </p>
      )}
      {(use.error || remove.error) && <Failure text={problemText(use.error ?? remove.error)} />}
    </div>
  );
}
