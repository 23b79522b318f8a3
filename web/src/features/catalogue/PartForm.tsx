import { useState } from "react";
import { ProblemError, problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { Button, Failure, Working } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { type TableName, useKeepPart, usePart } from "./queries";

/** Which part is open: `name` and `second` find it, empty for a new one. */
export type OpenPart = { table: TableName; name: string; second: string; key: Record<string, string> };
type Props = { part: OpenPart | null; onClose: () => void };

const titles: Record<TableName, string> = {
  compounds: "compound",
  "pad shapes": "pad shape",
  rotors: "rotor",
  fluids: "fluid",
};

/** One part of the catalogue, cell by cell: the same columns and the same rules as a file of them. */
export function PartForm({ part, onClose }: Props) {
  return (
    <Drawer
      open={part !== null}
      onClose={onClose}
      title={part ? (part.name ? `Change ${part.name}` : `Add a ${titles[part.table]}`) : ""}
    >
      {part && <Cells key={`${part.table}/${part.name}/${part.second}`} part={part} onClose={onClose} />}
    </Drawer>
  );
}

function Cells({ part, onClose }: { part: OpenPart; onClose: () => void }) {
  const found = usePart(part.table, part.name, part.second);
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return <Working>Opening the part…</Working>;
  return <Typed part={part} start={found.data} onClose={onClose} />;
}

const long = (column: Schemas["TableColumnOut"]) => column.kind === "mu" || column.field === "bedding";

type TypedProps = { part: OpenPart; start: Schemas["PartText"]; onClose: () => void };

function Typed({ part, start, onClose }: TypedProps) {
  const keep = useKeepPart();
  const [cells, setCells] = useState(start.cells);
  const { say } = useUnits();
  // Allowed, and hardly meant: asked about once.
  const asked =
    keep.error instanceof ProblemError
      ? keep.error.problem.fields.find((entry) => entry.said && entry.allowed.startsWith("what is meant"))
      : undefined;
  const set = (field: string, value: string) => setCells((before) => ({ ...before, [field]: value }));
  return (
    <Form
      begin
      refused={useRefused(asked ? null : keep.error)}
      onSend={() => {
        keep.mutate({ table: part.table, cells, before: part.key, sure: false }, { onSuccess: onClose });
      }}
    >
      <div className="grid grid-cols-2 gap-x-4 gap-y-3">
        {start.columns.map((column) => {
          const value = cells[column.field] ?? "";
          const words = column.kind === "tick" ? ["yes", "no"] : column.words;
          if (words.length > 0)
            return (
              <SelectField
                key={column.field}
                label={column.heading}
                value={value || (column.kind === "tick" ? "no" : "")}
                options={[
                  ...(words.includes(value) || column.kind === "tick" ? [] : [["", "choose…"] as const]),
                  ...words.map((word) => [word, word.replaceAll("_", " ")] as const),
                ]}
                onChange={(word) => set(column.field, word)}
              />
            );
          return (
            <TextField
              key={column.field}
              label={column.needed ? column.heading : `${column.heading} (may be left empty)`}
              value={value}
              wide={long(column)}
              {...(long(column) ? { lines: 3 } : {})}
              path={`cells.${column.field}`}
              onChange={(text) => set(column.field, text)}
            />
          );
        })}
      </div>
      {asked?.said && (
        <div role="alert" className="mt-3 border-l-2 border-close-fill pl-3">
          <p>
            ◐ {start.columns.find((column) => `cells.${column.field}` === asked.field)?.heading}:{" "}
            {say(asked.said)}
          </p>
          <Button
            className="mt-1"
            onClick={() =>
              keep.mutate({ table: part.table, cells, before: part.key, sure: true }, { onSuccess: onClose })
            }
          >
            It is right
          </Button>
        </div>
      )}
      <div className="mt-4 flex gap-3">
        <Button type="submit" primary disabled={keep.isPending}>
          {part.name ? "Keep the change" : "Add it"}
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </div>
      <p className="condensed mt-3 text-xs text-muted">
        Metric units, as in the catalogue's files. Friction: temperature=friction source, points parted by
        semicolons, or the two letters on the pad's edge. Everything that uses the part is computed again.
      </p>
    </Form>
  );
}
