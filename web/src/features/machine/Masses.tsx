import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { Button } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { Form } from "../../ui/Form";
import { TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useSetMasses } from "./queries";

type Mass = Schemas["MassIO"];
type Row = {
  key: number;
  name: string;
  mass_kg: number | null;
  front_share: number | null;
  height_m: number | null;
};

/** What to start from: the machine as it is, less a driver and half a tank. */
export function firstRows(mass_kg: number, front: number): Mass[] {
  const [driver, fuel] = [80, 25];
  const empty = Math.max(1, mass_kg - driver - fuel);
  // Driver and tank sit about the middle: what is left carries the rest of the split.
  const share = (mass_kg * front - driver * 0.45 - fuel * 0.4) / empty;
  return [
    { name: "empty", mass_kg: empty, front_share: Math.round(share * 1000) / 1000, height_m: null },
    { name: "driver", mass_kg: driver, front_share: 0.45, height_m: null },
    { name: "fuel", mass_kg: fuel, front_share: 0.4, height_m: null },
  ];
}

/** Sum and split of the rows that are complete. */
export function together(
  rows: Pick<Row, "mass_kg" | "front_share">[],
): { mass_kg: number; front: number } | null {
  const whole = rows.filter((row) => row.mass_kg !== null && row.front_share !== null);
  const mass_kg = whole.reduce((sum, row) => sum + (row.mass_kg ?? 0), 0);
  if (mass_kg <= 0) return null;
  const front = whole.reduce((sum, row) => sum + (row.mass_kg ?? 0) * (row.front_share ?? 0), 0) / mass_kg;
  return { mass_kg, front };
}

type Props = { machine: Schemas["MachineOut"]; open: boolean; onClose: () => void };

/** The mass put together from its parts: empty, people, fuel, load. */
export function Masses({ machine, open, onClose }: Props) {
  return (
    <Drawer open={open} onClose={onClose} title="What the mass is made of">
      <Table key={`${machine.id}-${open}`} machine={machine} onClose={onClose} />
    </Drawer>
  );
}

function Table({ machine, onClose }: { machine: Schemas["MachineOut"]; onClose: () => void }) {
  const units = useUnits();
  const save = useSetMasses(machine.id);
  const start = machine.masses.length
    ? machine.masses
    : firstRows(machine.values["vehicle.mass_kg"] ?? 1000, machine.values["vehicle.front_fraction"] ?? 0.5);
  const [rows, setRows] = useState<Row[]>(() =>
    start.map((mass, key) => ({ ...mass, height_m: mass.height_m ?? null, key })),
  );
  const set = (key: number, change: Partial<Row>) =>
    setRows((before) => before.map((row) => (row.key === key ? { ...row, ...change } : row)));
  const sum = together(rows);
  const complete = rows.every((row) => row.name.trim() && row.mass_kg !== null && row.front_share !== null);
  return (
    <Form
      refused={useRefused(save.error)}
      onSend={() => {
        if (!complete) return;
        save.mutate(
          {
            parts: rows.map((row) => ({
              name: row.name.trim(),
              mass_kg: row.mass_kg ?? 0,
              front_share: row.front_share ?? 0,
              height_m: row.height_m,
            })),
          },
          { onSuccess: onClose },
        );
      }}
    >
      <p className="mb-3 text-muted">
        The share on the front is 100 % over the front axle and 0 % over the rear; a rack behind the rear axle
        has less than 0. Heights are optional: with all of them the CG follows.
      </p>
      <div className="space-y-3">
        {rows.map((row, index) => (
          <fieldset
            key={row.key}
            className="grid grid-cols-[1fr_5rem_4.5rem_5rem_1.5rem] items-start gap-x-2 border-t border-hairline pt-2"
          >
            <legend className="sr-only">{row.name || `Part ${index + 1}`}</legend>
            <TextField label="Part" value={row.name} onChange={(name) => set(row.key, { name })} />
            <Cell label="kg" head={units.symbol("mass")}>
              <NumberField
                bare
                label={`Mass of ${row.name}`}
                quantity="mass"
                system={units.system}
                value={row.mass_kg}
                nullable
                placeholder=""
                path={`masses[${index}].mass_kg`}
                onChange={(mass_kg) => set(row.key, { mass_kg })}
              />
            </Cell>
            <Cell label="front" head="front, %">
              <NumberField
                bare
                label={`Share of ${row.name} on the front`}
                quantity="grade"
                system={units.system}
                value={row.front_share}
                nullable
                placeholder=""
                path={`masses[${index}].front_share`}
                onCommit={(front_share) => set(row.key, { front_share })}
              />
            </Cell>
            <Cell label="height" head={`height, ${units.symbol("length")}`}>
              <NumberField
                bare
                label={`Height of ${row.name}`}
                quantity="length"
                system={units.system}
                value={row.height_m}
                nullable
                placeholder="open"
                path={`masses[${index}].height_m`}
                onCommit={(height_m) => set(row.key, { height_m })}
              />
            </Cell>
            <button
              type="button"
              className="mt-5 h-7"
              aria-label={`Take out ${row.name}`}
              disabled={rows.length === 1}
              onClick={() => setRows(rows.filter((other) => other.key !== row.key))}
            >
              ×
            </button>
          </fieldset>
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        {["passenger", "load", "part"].map((name) => (
          <Button
            key={name}
            onClick={() =>
              setRows([
                ...rows,
                {
                  key: Math.max(...rows.map((row) => row.key)) + 1,
                  name,
                  mass_kg: null,
                  front_share: name === "passenger" ? 0.45 : 0.2,
                  height_m: null,
                },
              ])
            }
          >
            Add a {name}
          </Button>
        ))}
      </div>
      <p className="mt-4 border-t border-ink pt-2" aria-live="polite" data-sum>
        {sum
          ? `Together ${units.withUnit(sum.mass_kg, "mass")}, ${(100 * sum.front).toFixed(1)} % on the front.`
          : "Nothing to add up yet."}
      </p>
      <Button type="submit" primary className="mt-2" disabled={!complete || save.isPending}>
        Use this sum
      </Button>
    </Form>
  );
}

function Cell({ label, head, children }: { label: string; head: string; children: React.ReactNode }) {
  return (
    <div data-cell={label}>
      <span aria-hidden="true" className="condensed block text-xs text-muted">
        {head}
      </span>
      {children}
    </div>
  );
}
