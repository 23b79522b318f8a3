import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { dateText } from "../../lib/text";
import { Button, buttonLook, Failure } from "../../ui/basics";
import { FileButton } from "../../ui/FileButton";
import { SelectField } from "../../ui/fields";
import { useDuties } from "../duty/queries";
import { useMay, usePublicAddress } from "../session/queries";
import { useReadEvents, useSetFeed, useTakeInEvents } from "./season";

type Coming = Schemas["ComingOut"];

const words: Record<Coming["what"], string> = {
  new: "new",
  moved: "moved or changed",
  cancelled: "cancelled: goes out",
  same: "is here already",
  over: "is over here",
};

/** A calendar or a table comes in: what is in it first, then what becomes of it. */
function ImportEvents({ machineId, duty_id }: { machineId: number; duty_id: number }) {
  const read = useReadEvents(machineId);
  const take = useTakeInEvents(machineId);
  const duties = useDuties();
  const [file, setFile] = useState<File | null>(null);
  const [duty, setDuty] = useState(duty_id);
  const rows = read.data ?? [];
  const changes = rows.filter(
    (row) => row.what === "new" || row.what === "moved" || row.what === "cancelled",
  );
  return (
    <div>
      <FileButton
        className={`inline-flex ${buttonLook()}`}
        accept=".ics,text/calendar,.csv,.xlsx"
        onFile={(chosen) => {
          setFile(chosen);
          take.reset();
          read.mutate(chosen);
        }}
      >
        Bring in a calendar or a table
      </FileButton>
      {read.error && <Failure text={problemText(read.error)} />}
      {take.error && <Failure text={problemText(take.error)} />}
      {take.data && (
        <p role="status" className="mt-2">
          {changes.length === 0 ? "Nothing in it was new." : `${changes.length} taken in.`}
        </p>
      )}
      {file && rows.length > 0 && !take.data && (
        <div className="mt-2 border border-hairline p-3">
          <p className="mb-1">
            {file.name}: {rows.length} events, {changes.length} to take in.
          </p>
          <ul className="mb-2 max-h-60 overflow-y-auto">
            {rows.map((row) => (
              <li
                key={`${row.on}${row.name}`}
                className="flex flex-wrap justify-between gap-x-4 border-t border-hairline py-1"
              >
                <span>
                  {dateText(row.on)} {row.name}
                </span>
                <span className="condensed text-muted">{words[row.what]}</span>
              </li>
            ))}
          </ul>
          <div className="flex flex-wrap items-end gap-3">
            <SelectField
              label="What new ones ask"
              value={String(duty)}
              options={(duties.data ?? []).map((row) => [String(row.id), row.name] as const)}
              onChange={(id) => setDuty(Number(id))}
            />
            <Button
              primary
              disabled={take.isPending || changes.length === 0}
              onClick={() => take.mutate({ file, duty_id: duty })}
            >
              Take them in
            </Button>
            <Button onClick={() => setFile(null)}>Leave it</Button>
          </div>
        </div>
      )}
    </div>
  );
}

/** The calendar as a file, in, and at a secret address that can be withdrawn. */
export function CalendarFiles({
  machineId,
  feed,
  duty_id,
}: {
  machineId: number;
  feed: string | null;
  duty_id: number;
}) {
  const set = useSetFeed(machineId);
  const begins = usePublicAddress();
  const { reads } = useMay();
  const address = feed && `${begins}api/feeds/${feed}.ics`;
  return (
    <details className="mt-4">
      <summary className="cursor-pointer font-semibold">Calendar files</summary>
      <div className="mt-2 flex flex-wrap items-start gap-3">
        <a
          href={`/api/machines/${machineId}/events.ics`}
          className={`inline-flex items-center ${buttonLook()}`}
        >
          Calendar file
        </a>
        <ImportEvents machineId={machineId} duty_id={duty_id} />
      </div>
      <div className="mt-3 max-w-prose" hidden={reads}>
        {address ? (
          <>
            <p>
              Any calendar reads these events at this address, and so does whoever you give it to:
              <br />
              <code className="figures text-xs break-all">{address}</code>
            </p>
            <Button className="mt-1" disabled={set.isPending} onClick={() => set.mutate({ shared: false })}>
              Withdraw the address
            </Button>
          </>
        ) : (
          <>
            <p className="mb-1 text-muted">
              Another calendar can follow these events at a secret address, until you withdraw it.
            </p>
            <Button disabled={set.isPending} onClick={() => set.mutate({ shared: true })}>
              Make an address
            </Button>
          </>
        )}
        {set.error && <Failure text={problemText(set.error)} />}
      </div>
    </details>
  );
}
