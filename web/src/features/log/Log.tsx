import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { dateText, fieldText } from "../../lib/text";
import { Button, buttonLook, Failure, StageTitle, Working } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { CheckField, SelectField, TextField } from "../../ui/fields";
import { PictureButton } from "../../ui/PictureButton";
import { NoteForm } from "./NoteForm";
import { Older } from "./Older";
import { asQuery, type Filter, useKeepNotePhoto, useLog, useRemoveNote } from "./queries";

type Entry = Schemas["LogOut"];

const kindWords: Record<string, string> = {
  parts: "parts",
  reading: "readings",
  job: "jobs",
  bedding: "bedding",
  event: "events",
  order: "orders",
  decision: "decisions",
  machine: "the machine",
  duty: "duties",
  catalogue: "catalogue",
  people: "people",
  note: "by hand",
};

/** The log of one machine. */
export function LogStage() {
  const id = useMachineId();
  return <Log machineId={id} />;
}

/** The log of the whole workshop. */
export function LogPage() {
  return <Log machineId={null} />;
}

function Log({ machineId }: { machineId: number | null }) {
  const [filter, setFilter] = useState<Filter>({});
  const [writing, setWriting] = useState(false);
  const asked: Filter = machineId === null ? filter : { ...filter, machine_id: machineId };
  const log = useLog(asked);
  const set = (part: Partial<Filter>) => setFilter({ ...filter, ...part });
  if (log.error) return <Failure text={problemText(log.error)} retry={() => log.refetch()} />;
  const first = log.data?.pages[0];
  if (!first) return <Working>Opening the log…</Working>;
  const entries = log.data?.pages.flatMap((page) => page.entries) ?? [];
  const query = new URLSearchParams(
    Object.entries(asQuery(asked)).map(([name, value]) => [name, String(value)]),
  );
  const link = `inline-flex items-center ${buttonLook()}`;
  return (
    <>
      <StageTitle
        title={machineId === null ? "The workshop's log" : "Log"}
        note="Every change, reading, job, event and decision writes itself down; the rest is yours to write."
      >
        <Button primary onClick={() => setWriting(!writing)}>
          Write an entry
        </Button>
        <a className={link} href={`/api/log.csv?${query}`}>
          CSV
        </a>
        <a className={link} href={`/api/log.xlsx?${query}`}>
          Spreadsheet
        </a>
        {machineId !== null && <BookLinks machineId={machineId} look={link} />}
      </StageTitle>
      {writing && (
        <NoteForm machineId={machineId} currency={first.currency} onDone={() => setWriting(false)} />
      )}
      <search className="mb-3 grid grid-cols-2 items-end gap-3 bay:grid-cols-1! md:grid-cols-6">
        <div className="col-span-2 bay:col-span-1!">
          <TextField
            label="Search in words"
            value={filter.words ?? ""}
            onCommit={(words) => set({ words })}
          />
        </div>
        <SelectField
          label="Kind"
          value={filter.kind ?? ""}
          options={[
            ["", "everything"],
            ...first.kinds.map(
              (entry) => [entry.kind, `${kindWords[entry.kind] ?? entry.kind} (${entry.number})`] as const,
            ),
          ]}
          onChange={(kind) => set({ kind })}
        />
        <SelectField
          label="Who"
          value={filter.person ?? ""}
          options={[["", "anybody"], ...first.people.map((name) => [name, name] as const)]}
          onChange={(person) => set({ person })}
        />
        <DateField label="From" value={filter.since ?? ""} onChange={(since) => set({ since })} />
        <DateField label="Until" value={filter.until ?? ""} onChange={(until) => set({ until })} />
        <CheckField checked={filter.quiet ?? false} onChange={(quiet) => set({ quiet })}>
          every tick and cell
        </CheckField>
        <CheckField checked={filter.removed ?? false} onChange={(removed) => set({ removed })}>
          what was taken out
        </CheckField>
      </search>
      {filter.thing && (
        <p className="mb-2 flex items-center gap-3">
          Only what is about {filter.thing}.
          <Button small onClick={() => set({ thing: "" })}>
            All of it
          </Button>
        </p>
      )}
      {entries.length === 0 ? (
        <p className="text-muted">Nothing here answers that.</p>
      ) : (
        <ol className="border-t border-ink" aria-label="Entries">
          {entries.map((entry) => (
            <EntryRow
              key={entry.id}
              entry={entry}
              currency={first.currency}
              ofMachine={machineId === null}
              onThing={(thing) => set({ thing })}
            />
          ))}
        </ol>
      )}
      {log.hasNextPage && (
        <Button className="mt-3" disabled={log.isFetchingNextPage} onClick={() => void log.fetchNextPage()}>
          Further back
        </Button>
      )}
      {machineId !== null && <Older machineId={machineId} />}
    </>
  );
}

function BookLinks({ machineId, look }: { machineId: number; look: string }) {
  const { system } = useUnits();
  return (
    <>
      <a
        className={look}
        href={`/api/machines/${machineId}/log-book?system=${system}`}
        target="_blank"
        rel="noreferrer"
      >
        Log book for the next owner
      </a>
      <a className={look} href={`/api/machines/${machineId}/export`}>
        Everything, to be read in again
      </a>
    </>
  );
}

type RowProps = { entry: Entry; currency: string; ofMachine: boolean; onThing: (thing: string) => void };

function EntryRow({ entry, currency, ofMachine, onThing }: RowProps) {
  const units = useUnits();
  const remove = useRemoveNote();
  const picture = useKeepNotePhoto();
  const [open, setOpen] = useState(false);
  const about = [
    dateText(entry.on),
    ofMachine && entry.machine,
    entry.odometer_km !== null && units.withUnit(entry.odometer_km, "distance"),
    entry.user_name,
    entry.cost !== null && `${currency}${entry.cost.toFixed(2)}`,
  ].filter(Boolean);
  const opens = entry.changes.length > 0 || entry.things.length > 0 || entry.by_hand;
  return (
    <li
      data-entry={entry.act}
      className={`border-b border-hairline py-2 ${entry.removed ? "text-muted" : ""}`}
    >
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span className={`font-semibold ${entry.removed ? "line-through" : ""}`}>
          {entry.act === "write_note" ? entry.text : entry.summary}
        </span>
        <span className="condensed text-muted">{kindWords[entry.kind] ?? entry.kind}</span>
      </div>
      <p className="condensed text-muted">
        {about.join(" · ")}
        {opens && (
          <button
            type="button"
            aria-expanded={open}
            className="ml-3 min-h-6 underline underline-offset-2"
            onClick={() => setOpen(!open)}
          >
            {open ? "less" : "more"}
          </button>
        )}
      </p>
      {entry.photos.length > 0 && (
        <div className="mt-1 flex flex-wrap gap-2">
          {entry.photos.map((id) => (
            <a key={id} href={`/api/log-photos/${id}`} target="_blank" rel="noreferrer">
              <img
                src={`/api/log-photos/${id}`}
                alt="of this entry"
                className="h-20 border border-hairline"
              />
            </a>
          ))}
        </div>
      )}
      {open && (
        <div className="mt-1">
          {entry.text && entry.act !== "write_note" && <p>{entry.text}</p>}
          {entry.changes.map((change) => (
            <p key={change.path} className="condensed">
              {fieldText(change.path)}: {valueText(change.before)} → {valueText(change.after)}
            </p>
          ))}
          {entry.things.length > 0 && (
            <p className="condensed text-muted">
              about{" "}
              {entry.things.map((thing) => (
                <button
                  key={thing}
                  type="button"
                  className="mr-2 min-h-6 underline underline-offset-2"
                  onClick={() => onThing(thing)}
                >
                  {thing}
                </button>
              ))}
            </p>
          )}
          {entry.by_hand && (
            <div className="mt-1 flex flex-wrap gap-2">
              {entry.act === "write_note" && !entry.removed && (
                <PictureButton
                  className={buttonLook(false, true)}
                  onPicture={(file) => picture.mutate({ id: entry.id, file })}
                >
                  Add a picture
                </PictureButton>
              )}
              <Button small onClick={() => remove.mutate({ row: entry.id, removed: !entry.removed })}>
                {entry.removed ? "Bring back" : "Take out"}
              </Button>
            </div>
          )}
          {(remove.error || picture.error) && <Failure text={problemText(remove.error ?? picture.error)} />}
        </div>
      )}
    </li>
  );
}

/** A value as the log kept it. */
function valueText(value: unknown): string {
  if (value === null || value === undefined || value === "") return "nothing";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return Number(value.toPrecision(6)).toString();
  return String(value);
}
