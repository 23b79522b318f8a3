import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Button, buttonLook, Failure, GroupTitle, StateWord, Working } from "../../ui/basics";
import { FileButton } from "../../ui/FileButton";
import { SelectField } from "../../ui/fields";
import { Cell, Row, Table } from "../../ui/Table";
import { type PartsFile, type TableName, useImportTable, useLookAtTable, useReadTable } from "./queries";

const tables: [TableName, string][] = [
  ["compounds", "compounds and their friction"],
  ["pad shapes", "pad shapes and prices"],
  ["rotors", "rotors"],
  ["fluids", "fluids"],
];

/** A file of parts: what it is, what its columns hold, what it would change, and only then taken in. */
export function Import() {
  const [table, setTable] = useState<TableName>("compounds");
  const [parts, setParts] = useState<PartsFile | null>(null);
  const look = useLookAtTable();
  const read = useReadTable();
  const take = useImportTable();
  const busy = look.isPending || read.isPending || take.isPending;
  function open(next: PartsFile) {
    take.reset();
    read.reset();
    look.mutate(next, {
      onSuccess: ({ mapping, columns }) => check({ ...next, mapping }, columns),
      onError: () => setParts(null),
    });
  }
  function check(next: PartsFile, columns = look.data?.columns ?? []) {
    setParts(next);
    take.reset();
    // What is missing is said beside its choice, all of it at once; until it is picked there is nothing to read.
    if (missingOf(columns, next.mapping).length > 0) read.reset();
    else read.mutate(next);
  }
  const failed = look.error ?? take.error ?? read.error;
  const plan = take.data ?? read.data;
  return (
    <section aria-label="Take in a file of parts" className="mb-5 border border-ink p-3">
      <div className="flex flex-wrap items-end gap-4">
        <div className="w-64">
          <SelectField
            label="The file holds"
            value={table}
            options={tables}
            onChange={(name) => {
              const next = name as TableName;
              setTable(next);
              if (parts) open({ ...parts, table: next });
            }}
          />
        </div>
        <FileButton
          className={`flex ${buttonLook()}`}
          accept=".csv,.tsv,.txt,.xlsx,text/csv"
          onFile={(file) => open({ file, table, mapping: {} })}
        >
          {parts ? "Another file" : "Open a CSV or spreadsheet"}
        </FileButton>
        {parts && <span className="condensed text-muted">{parts.file.name}</span>}
      </div>
      <p className="condensed mt-1 text-xs text-muted">
        Rows are matched by name: known ones are changed, others added, nothing is removed. The easiest start
        is one of the files below, edited. For friction nobody measured, the two letters on the pad's edge
        will do as a guess.
      </p>
      {busy && <Working>Reading the file…</Working>}
      {failed && !busy && <Failure text={problemText(failed)} />}
      {look.data && parts && (
        <Mapping
          look={look.data}
          mapping={parts.mapping}
          onChange={(mapping) => check({ ...parts, mapping })}
        />
      )}
      {plan && !busy && <Plan plan={plan} />}
      {parts && plan && !plan.written && plan.errors.length === 0 && (
        <Button
          primary
          className="mt-2"
          disabled={busy || plan.added.length + plan.changed.length === 0}
          onClick={() => take.mutate({ ...parts, sure: plan.doubts.length > 0 })}
        >
          {plan.doubts.length > 0 ? "It is right: take it in" : "Take it in"}
        </Button>
      )}
    </section>
  );
}

type MappingProps = {
  look: Schemas["TableLookOut"];
  mapping: Record<string, string>;
  onChange: (mapping: Record<string, string>) => void;
};

const missingOf = (columns: Schemas["TableLookOut"]["columns"], mapping: Record<string, string>) =>
  columns.filter((column) => column.needed && !mapping[column.field]);

function Mapping({ look, mapping, onChange }: MappingProps) {
  const headings = look.headings.map((heading) => [heading, heading] as const);
  const missing = missingOf(look.columns, mapping);
  return (
    <details open={missing.length > 0} className="mt-3">
      <summary className="cursor-pointer font-semibold">What its columns hold, {look.rows} rows</summary>
      {missing.length > 0 && (
        <p role="alert" className="mt-1 max-w-prose text-over">
          ▲ Nothing is read yet. No column was found for: {missing.map((column) => column.heading).join("; ")}
          . Pick the column that holds each, or add it to the file: without these numbers a part cannot be
          computed. The files below show how each is written.
        </p>
      )}
      <div className="mt-2 grid grid-cols-2 gap-2 md:grid-cols-4">
        {look.columns.map((column) => (
          <SelectField
            key={column.field}
            label={column.needed ? column.heading : `${column.heading} (may be missing)`}
            value={mapping[column.field] ?? ""}
            options={[["", "not in the file"], ...headings]}
            onChange={(heading) => {
              const { [column.field]: _, ...rest } = mapping;
              onChange(heading ? { ...rest, [column.field]: heading } : rest);
            }}
          />
        ))}
      </div>
    </details>
  );
}

function Plan({ plan }: { plan: Schemas["TableImportOut"] }) {
  const { say } = useUnits();
  const names = (rows: string[]) => `${rows.slice(0, 8).join("; ")}${rows.length > 8 ? "; …" : ""}`;
  return (
    <div className="mt-3" data-plan={plan.written ? "written" : "read"}>
      <GroupTitle>{plan.written ? "Taken in" : "What it would do"}</GroupTitle>
      <ul>
        <li>
          {plan.added.length} added{plan.added.length > 0 && `: ${names(plan.added)}`}
        </li>
        <li>
          {plan.changed.length} changed
          {plan.changed.length > 0 && (
            <ul className="condensed ml-4">
              {plan.changes.map((cells, index) => (
                <li key={plan.changed[index]}>
                  <span className="font-semibold">{plan.changed[index]}</span>:{" "}
                  {cells
                    .map((cell) => `${cell.column} ${cell.before || "nothing"} → ${cell.after || "nothing"}`)
                    .join("; ")}
                </li>
              ))}
              {plan.changed.length > plan.changes.length && <li>…</li>}
            </ul>
          )}
        </li>
        <li>{plan.same} as they are already</li>
      </ul>
      {plan.doubts.length > 0 && !plan.written && (
        <ul className="mt-2" aria-label="Is that meant">
          {plan.doubts.map((doubt) => (
            <li key={`${doubt.row}${doubt.column}`}>
              <StateWord state="close">
                row {doubt.row}, {doubt.column}: {say(doubt.text)}
              </StateWord>
            </li>
          ))}
        </ul>
      )}
      {plan.without_shape.length > 0 && (
        <p className="mt-2 max-w-prose">
          <StateWord state="close">Without a shape: {names(plan.without_shape)}.</StateWord> Machines whose
          pad shape is known are not offered them until a file of pad shapes, or <em>Add</em> under pad
          shapes, says what they are sold in.
        </p>
      )}
      {plan.errors.length > 0 && (
        <>
          <p className="mt-2">
            <StateWord state="over">
              {plan.errors.length === 1 ? "One cell is wrong" : `${plan.errors.length} cells are wrong`}:
              nothing is taken in until the file is mended
            </StateWord>
          </p>
          <div className="mt-1 max-h-72 overflow-y-auto">
            <Table
              label="Wrong cells"
              heads={[{ text: "Row", className: "w-16" }, "Column", "There stands", "Allowed"]}
            >
              <tbody>
                {plan.errors.map((error) => (
                  <Row key={`${error.row}${error.column}`}>
                    <Cell className="figures">{error.row}</Cell>
                    <Cell>{error.column}</Cell>
                    <Cell className="break-all">{error.value || "nothing"}</Cell>
                    <Cell>{error.allowed}</Cell>
                  </Row>
                ))}
              </tbody>
            </Table>
          </div>
        </>
      )}
    </div>
  );
}
