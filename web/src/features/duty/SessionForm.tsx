import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { CircuitStrip } from "../../charts/CircuitStrip";
import { useUnits } from "../../lib/settings";
import { clockText } from "../../lib/text";
import { Button } from "../../ui/basics";
import { FormPart } from "../../ui/Form";
import { CheckField, SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { type Column, Rows } from "../../ui/Rows";
import { type FormProps, lapsFor, type ShapeOf } from "./drafts";
import { useCircuits, useSaveCircuit } from "./queries";

const levels = [
  ["novice", "novice"],
  ["intermediate", "intermediate"],
  ["advanced", "advanced"],
] as const;
const traffic = [
  ["0", "a free track"],
  ["0.25", "every fourth lap behind someone"],
  ["0.5", "every other lap behind someone"],
] as const;
const columns: Column<Schemas["ElementIO"]>[] = [
  { name: "length_m", label: "Length", quantity: "length", width: "w-28" },
  { name: "radius_m", label: "Radius", quantity: "length", empty: "straight", width: "w-28" },
  { name: "grade", label: "Climbs", quantity: "grade", width: "w-24" },
];
const twoCorners: Schemas["ElementIO"][] = [
  { length_m: 300, radius_m: null, grade: 0 },
  { length_m: 90, radius_m: 35, grade: 0 },
];

/** What follows a piece: a straight, whatever stood before; a bend is typed, never copied. */
export const nextPiece = (last: Schemas["ElementIO"]): Schemas["ElementIO"] => ({ ...last, radius_m: null });

/** Laps of a circuit, or runs up a hill or through a course. */
export function SessionForm({ shape, set, onDrawing, lap = null }: FormProps<"session">) {
  const { system, withUnit } = useUnits();
  const all = shape.laps + shape.cool_down_laps;
  const circuits = useCircuits().data ?? [];
  const chosen = circuits.find((row) => row.id === shape.circuit_id);
  const [drawing, setDrawing] = useState<Schemas["CircuitOut"] | "new" | null>(null);
  const open = drawing !== null;
  useEffect(() => {
    onDrawing(open);
    return () => onDrawing(false);
  }, [open, onDrawing]);
  const number = (
    label: string,
    quantity: "count" | "minutes" | "fineDistance",
    value: number,
    commit: (value: number) => void,
    hint?: string,
  ) => (
    <NumberField
      label={label}
      quantity={quantity}
      system={system}
      value={value}
      hint={hint}
      onCommit={(typed) => typed !== null && commit(typed)}
    />
  );
  const whole = (value: number, least: number) => Math.max(least, Math.round(value));
  return (
    <>
      <div className="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-4">
        <SelectField
          label="Circuit or course"
          value={String(shape.circuit_id ?? "")}
          options={[
            ...(shape.circuit_id === null ? [["", "choose one"] as const] : []),
            ...circuits.map((row) => [String(row.id), row.name] as const),
          ]}
          onChange={(id) => set({ circuit_id: Number(id) || null })}
        />
        <SelectField
          label="Driver"
          value={shape.driver_level || "intermediate"}
          options={levels}
          onChange={(level) => set({ driver_level: level as ShapeOf<"session">["driver_level"] })}
        />
        {number(chosen?.closed === false ? "Runs" : "Laps", "count", shape.laps, (laps) =>
          set({ laps: whole(laps, 1) }),
        )}
        {chosen?.closed !== false &&
          lap &&
          number(
            "or minutes",
            "minutes",
            all * lap.s,
            (s) => set({ laps: lapsFor(shape, lap, { s }) }),
            `whole laps of ${clockText(lap.s)}`,
          )}
        {chosen?.closed !== false &&
          lap &&
          number(
            "or distance",
            "fineDistance",
            all * lap.km,
            (km) => set({ laps: lapsFor(shape, lap, { km }) }),
            `${withUnit(lap.km, "fineDistance")} a lap`,
          )}
        {chosen?.closed === false
          ? number(
              "Between runs",
              "minutes",
              shape.pause_s,
              (pause_s) => set({ pause_s }),
              "back to the start, and the queue",
            )
          : number("Cool-down laps", "count", shape.cool_down_laps, (laps) =>
              set({ cool_down_laps: whole(laps, 0) }),
            )}
        {chosen?.closed !== false && (
          <SelectField
            label="Traffic"
            value={String(shape.traffic)}
            options={
              traffic.some(([share]) => Number(share) === shape.traffic)
                ? traffic
                : [
                    ...traffic,
                    [String(shape.traffic), `${Math.round(100 * shape.traffic)} % of the laps`] as const,
                  ]
            }
            onChange={(share) => set({ traffic: Number(share) })}
          />
        )}
      </div>
      {chosen && drawing === null && <CircuitStrip elements={chosen.elements} closed={chosen.closed} />}
      {drawing === null ? (
        <div className="mt-2 flex gap-3">
          {chosen && <Button onClick={() => setDrawing(chosen)}>Change this circuit</Button>}
          <Button onClick={() => setDrawing("new")}>Draw a new circuit</Button>
        </div>
      ) : (
        <CircuitForm
          circuit={drawing === "new" ? null : drawing}
          onDone={(id) => {
            if (id !== null) set({ circuit_id: id });
            setDrawing(null);
          }}
        />
      )}
    </>
  );
}

type CircuitProps = { circuit: Schemas["CircuitOut"] | null; onDone: (id: number | null) => void };

function CircuitForm({ circuit, onDone }: CircuitProps) {
  const { system, withUnit } = useUnits();
  const save = useSaveCircuit();
  const [name, setName] = useState(circuit?.name ?? "");
  const [closed, setClosed] = useState(circuit?.closed ?? true);
  const [elements, setElements] = useState<Schemas["ElementIO"][]>(circuit?.elements ?? twoCorners);
  const metres = elements.reduce((sum, element) => sum + element.length_m, 0);
  return (
    <FormPart
      begin
      refused={useRefused(save.error)}
      onSend={() =>
        save.mutate(
          { circuit_id: circuit?.id ?? null, body: { name: name.trim(), closed, elements } },
          { onSuccess: (kept) => onDone(kept.id) },
        )
      }
    >
      {(send) => (
        <fieldset className="mt-3 border border-hairline p-3">
          <legend className="px-1 font-semibold">
            {circuit ? `Change ${circuit.name}` : "A new circuit"}
          </legend>
          <CircuitStrip elements={elements} closed={closed} />
          <div className="mb-2 flex flex-wrap items-end gap-4">
            <div className="w-56">
              <TextField label="Name of the circuit" value={name} path="name" onChange={setName} />
            </div>
            <CheckField checked={closed} onChange={setClosed}>
              A lap that ends where it starts
            </CheckField>
            <span className="condensed text-muted">{withUnit(metres / 1000, "distance", 2)}</span>
          </div>
          <Rows
            title="Straights and corners"
            item="piece"
            rows={elements}
            columns={columns}
            system={system}
            blank={() => ({ length_m: 200, radius_m: null, grade: 0 })}
            next={nextPiece}
            onChange={setElements}
            path={(index, part) => `elements[${index}].${part}`}
          />
          <div className="mt-3 flex gap-3">
            <Button disabled={!name.trim() || save.isPending} onClick={send}>
              Keep the circuit
            </Button>
            <Button onClick={() => onDone(null)}>Leave it as it was</Button>
          </div>
        </fieldset>
      )}
    </FormPart>
  );
}
