import { useState } from "react";
import { useUnits } from "../../lib/settings";
import { Button } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import type { Entry } from "./evidence";

type Kind = Entry["kind"];
const kinds: [Kind, string][] = [
  ["pyrometer", "Pyrometer"],
  ["paint", "Paint or strip"],
  ["logged", "Logged thermocouple"],
];
const axles = [
  ["front", "front"],
  ["rear", "rear"],
] as const;
const parts = [
  ["ring", "the ring"],
  ["caliper", "the caliper"],
] as const;
const bounds = [
  ["at_least", "has turned: at least"],
  ["less_than", "has not: less than"],
] as const;

function hintOf(kind: Kind, part: "ring" | "caliper"): string {
  if (kind === "paint") return part === "caliper" ? "the strip's own, by the pistons" : "the paint's own";
  return part === "caliper" ? "on the body, by the pistons" : "on the swept face";
}

/** One reading at a time; what was typed stays until it has been added. */
export function EvidenceForm({ onAdd }: { onAdd: (entry: Entry) => void }) {
  const { system } = useUnits();
  const [kind, setKind] = useState<Kind>("pyrometer");
  const [axle, setAxle] = useState<"front" | "rear">("front");
  const [part, setPart] = useState<"ring" | "caliper">("ring");
  const [bound, setBound] = useState<"at_least" | "less_than">("at_least");
  const [value, setValue] = useState<number | null>(null);
  const [since, setSince] = useState<number | null>(null);
  const [speed, setSpeed] = useState<number | null>(null);
  const [csv, setCsv] = useState<string | null>(null);
  const [round, setRound] = useState(0);
  const entry = ((): Entry | null => {
    if (kind === "logged") return csv ? { kind, axle, csv } : null;
    if (value === null) return null;
    if (kind === "paint") return { kind, axle, part, bound, value_C: value };
    return since === null || speed === null
      ? null
      : { kind, axle, part, value_C: value, since_s: since, speed_mps: speed };
  })();
  return (
    <Form
      label="Add a reading"
      onSend={() => {
        if (!entry) return;
        onAdd(entry);
        setValue(null);
        setCsv(null);
        setRound(round + 1);
      }}
    >
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <SelectField
          label="Measured with"
          value={kind}
          options={kinds}
          onChange={(name) => setKind(name as Kind)}
        />
        <SelectField
          label="Axle"
          value={axle}
          options={axles}
          onChange={(name) => setAxle(name as typeof axle)}
        />
        {kind !== "logged" && (
          <SelectField
            label="On"
            value={part}
            options={parts}
            onChange={(name) => setPart(name as typeof part)}
          />
        )}
        {kind === "paint" && (
          <SelectField
            label="The mark"
            value={bound}
            options={bounds}
            onChange={(name) => setBound(name as typeof bound)}
          />
        )}
      </div>
      {kind === "logged" ? (
        <label className="mt-2 block">
          <span className="condensed block text-xs text-muted">
            CSV: time in s from the start of the duty, temperature in °C
          </span>
          <input
            key={round}
            type="file"
            accept=".csv,text/csv,text/plain"
            className="mt-1 block max-w-full"
            onChange={async (event) => setCsv((await event.target.files?.[0]?.text()) ?? null)}
          />
        </label>
      ) : (
        <div className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(9.5rem,1fr))] gap-x-4 gap-y-2">
          <NumberField
            key={`value-${round}`}
            label={part === "caliper" ? "Caliper temperature" : "Ring temperature"}
            quantity="temperature"
            value={null}
            system={system}
            nullable
            hint={hintOf(kind, part)}
            onChange={setValue}
          />
          {kind === "pyrometer" && (
            <>
              <NumberField
                label="Since the last braking"
                quantity="minutes"
                value={null}
                system={system}
                nullable
                hint="of this duty"
                onCommit={setSince}
                onPreview={setSince}
              />
              <NumberField
                label="At"
                quantity="speed"
                value={null}
                system={system}
                nullable
                hint="0 if it stood"
                onCommit={setSpeed}
                onPreview={setSpeed}
              />
            </>
          )}
        </div>
      )}
      <Button type="submit" className="mt-2" disabled={!entry}>
        Add the reading
      </Button>
    </Form>
  );
}
