import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { counted, dateText } from "../../lib/text";
import { Button, buttonLook, Failure } from "../../ui/basics";
import { FileButton } from "../../ui/FileButton";
import { SelectField } from "../../ui/fields";
import { useLookAtLog, useReadOlder, useTakeInLog } from "./queries";

const names: Record<string, string> = {
  on: "The day",
  odometer_km: "The odometer",
  text: "What was done",
  parts: "Parts",
  cost: "The cost",
};

/** An older log comes in from a table, by columns that are found and can be chosen. */
export function Older({ machineId }: { machineId: number }) {
  const look = useLookAtLog(machineId);
  const read = useReadOlder(machineId);
  const take = useTakeInLog(machineId);
  const [file, setFile] = useState<File | null>(null);
  const [mapping, setMapping] = useState<Record<string, string>>({});
  const ask = (chosen: File, columns: Record<string, string>) => {
    setMapping(columns);
    take.reset();
    if (columns.on && columns.text) read.mutate({ file: chosen, mapping: columns });
  };
  return (
    <details className="mt-6">
      <summary className="cursor-pointer font-semibold">Bring in an older log</summary>
      <FileButton
        className={`mt-2 inline-flex ${buttonLook()}`}
        accept=".csv,.xlsx,text/csv"
        onFile={(chosen) => {
          setFile(chosen);
          look.mutate(chosen, { onSuccess: (found) => ask(chosen, found.mapping) });
        }}
      >
        A table: CSV or spreadsheet
      </FileButton>
      {look.error && <Failure text={problemText(look.error)} />}
      {file && look.data && (
        <div className="mt-2 border border-hairline p-3">
          <div className="grid grid-cols-2 gap-3 md:grid-cols-5">
            {look.data.fields.map((field) => (
              <SelectField
                key={field}
                label={names[field] ?? field}
                value={mapping[field] ?? ""}
                options={[
                  ["", "not in it"],
                  ...look.data.headings.filter(Boolean).map((heading) => [heading, heading] as const),
                ]}
                onChange={(heading) => {
                  const { [field]: _old, ...rest } = mapping;
                  ask(file, heading ? { ...rest, [field]: heading } : rest);
                }}
              />
            ))}
          </div>
          {read.error && <Failure text={problemText(read.error)} />}
          {read.data && <Preview found={read.data} />}
          {take.data ? (
            <p role="status" className="mt-2">
              {take.data.taken_in === 0
                ? "All of it was here already."
                : `${take.data.taken_in} entries read in.`}
            </p>
          ) : (
            <Button
              primary
              className="mt-2"
              disabled={!read.data || read.data.number === 0 || take.isPending}
              onClick={() => take.mutate({ file, mapping })}
            >
              Read it in
            </Button>
          )}
          {take.error && <Failure text={problemText(take.error)} />}
        </div>
      )}
    </details>
  );
}

function Preview({ found }: { found: Schemas["OlderRead"] }) {
  const units = useUnits();
  return (
    <div className="mt-2">
      <p>
        {counted(found.number, "row")} can be read
        {found.wrong.length > 0 && `, ${counted(found.wrong.length, "row")} cannot`}.
        {found.miles && " Its odometer is taken to be in miles: if it is not, say km in its heading."}
      </p>
      <ul>
        {found.rows.map((row) => (
          <li key={`${row.on}${row.text}`} className="condensed border-t border-hairline py-1">
            {dateText(row.on)}
            {row.odometer_km !== null && ` · ${units.withUnit(row.odometer_km, "distance")}`} · {row.text}
            {row.cost !== null && ` · ${row.cost.toFixed(2)}`}
          </li>
        ))}
        {found.wrong.map((row) => (
          <li key={row.row} className="condensed border-t border-hairline py-1 text-over">
            ▲ row {row.row}: {row.why}
          </li>
        ))}
      </ul>
    </div>
  );
}
