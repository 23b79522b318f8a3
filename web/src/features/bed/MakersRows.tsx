import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { createDraft, type Store, useStore } from "../../lib/store";
import { Button, Failure, GroupTitle } from "../../ui/basics";
import { FormPart } from "../../ui/Form";
import { NumberField } from "../../ui/NumberField";
import { type Row, useKeepMakersRows } from "./queries";

type Props = { machineId: number; schools: Schemas["SchoolsOut"] };

const fresh: Row = {
  phase: "leaflet",
  times: 10,
  from_mps: 60 / 3.6,
  to_mps: 20 / 3.6,
  decel_g: 0.3,
  then_s: 30,
  then_mps: 50 / 3.6,
  last_s: null,
  stretch: 0,
};

const drafts = new Map<number, Store<Row[] | null>>();
function draftOf(pad: number): Store<Row[] | null> {
  const draft = drafts.get(pad) ?? createDraft<Row[] | null>(null, `makers.${pad}`);
  drafts.set(pad, draft);
  return draft;
}

/** What the leaflet in the box says, row by row: it comes before every other school. */
export function MakersRows({ machineId, schools }: Props) {
  const draft = draftOf(schools.pad_id);
  const typed = useStore(draft);
  const [open, setOpen] = useState(typed !== null);
  const keep = useKeepMakersRows(machineId, schools.pad_id);
  const rows = typed ?? schools.makers.rows;
  const refused = useRefused(keep.error);
  const set = (next: Row[]) => draft.set(next);
  const send = (next: Row[]) =>
    keep.mutate(
      { rows: next, version: schools.makers.version },
      {
        onSuccess: () => {
          draft.set(null);
          setOpen(false);
        },
      },
    );
  if (!open)
    return (
      <section className="mt-6" aria-label="Maker's leaflet">
        <GroupTitle>The maker's leaflet</GroupTitle>
        <p className="text-muted">
          {schools.makers.rows.length > 0
            ? `${schools.makers.rows.length} rows typed in for ${schools.pad}: they come first.`
            : `What came in the box with ${schools.pad} comes first: type its rows in.`}
        </p>
        <p className="mt-1 flex flex-wrap gap-2">
          <Button
            onClick={() => {
              if (rows.length === 0) set([fresh]);
              setOpen(true);
            }}
          >
            {schools.makers.rows.length > 0 ? "Change the rows" : "Type the rows in"}
          </Button>
          {schools.makers.rows.length > 0 && <Button onClick={() => send([])}>Take them out</Button>}
        </p>
        {keep.error && <Failure text={problemText(keep.error)} />}
      </section>
    );
  return (
    <section className="mt-6" aria-label="Maker's leaflet">
      <GroupTitle>The maker's leaflet</GroupTitle>
      <FormPart refused={refused} onSend={() => send(rows)}>
        {(submit) => (
          <>
            {rows.map((row, place) => (
              <RowFields
                // biome-ignore lint/suspicious/noArrayIndexKey: rows have no name but their place
                key={place}
                row={row}
                place={place}
                onChange={(next) => set(rows.map((one, other) => (other === place ? next : one)))}
                {...(rows.length > 1
                  ? { onRemove: () => set(rows.filter((_, other) => other !== place)) }
                  : {})}
              />
            ))}
            <p className="mt-2 flex flex-wrap gap-2">
              <Button onClick={() => set([...rows, rows[rows.length - 1] ?? fresh])}>Another row</Button>
              <Button primary disabled={keep.isPending} onClick={submit}>
                Keep the rows
              </Button>
              <Button
                onClick={() => {
                  draft.set(null);
                  setOpen(false);
                }}
              >
                Cancel
              </Button>
            </p>
          </>
        )}
      </FormPart>
      {keep.error && <Failure text={problemText(keep.error)} />}
    </section>
  );
}

type RowProps = { row: Row; place: number; onChange: (row: Row) => void; onRemove?: () => void };

function RowFields({ row, place, onChange, onRemove }: RowProps) {
  const { system } = useUnits();
  const field = (
    name: "times" | "from_mps" | "to_mps" | "decel_g" | "then_s" | "then_mps",
    label: string,
    quantity: "count" | "speed" | "ratio" | "seconds",
  ) => (
    <NumberField
      label={label}
      path={`rows.${place}.${name}`}
      quantity={quantity}
      system={system}
      value={row[name] ?? null}
      onCommit={(value) =>
        value !== null && onChange({ ...row, [name]: name === "times" ? Math.round(value) : value })
      }
    />
  );
  return (
    <fieldset className="mb-2 border-t border-hairline pt-1" aria-label={`Row ${place + 1}`}>
      <div className="grid grid-cols-2 gap-x-6 gap-y-1">
        {field("times", "Times", "count")}
        {field("from_mps", "From", "speed")}
        {field("to_mps", "To", "speed")}
        {field("decel_g", "At, g", "ratio")}
        {field("then_s", "Then for", "seconds")}
        {field("then_mps", "at", "speed")}
      </div>
      {onRemove && (
        <button type="button" className="min-h-6 underline underline-offset-2" onClick={onRemove}>
          Take this row out
        </button>
      )}
    </fieldset>
  );
}
