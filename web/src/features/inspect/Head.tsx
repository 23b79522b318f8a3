import { useCallback, useEffect, useState } from "react";
import { ProblemError, problemText } from "../../api/client";
import { printPage } from "../../lib/print";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { dateText } from "../../lib/text";
import { Button, Failure, StageTitle } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { NumberField } from "../../ui/NumberField";
import { GaugePanel } from "./GaugePanel";
import { useChangeHead, useFinish, useRemoveInspection } from "./queries";
import { ReadingCell } from "./ReadingCell";
import { goToCell, useSheet } from "./sheet";

/** Day, odometer, how much is in, and the ways to measure, finish, print and take along. */
export function Head({ machineId, onBack }: { machineId: number; onBack: () => void }) {
  const { inspection, outbox, open } = useSheet();
  const { withUnit } = useUnits();
  const entries = useStore(outbox.entries);
  const asking = Object.values(entries).filter((entry) => entry.state !== "waiting").length;
  const finish = useFinish(machineId, inspection.id);
  const [gauge, setGauge] = useState(false);
  const undoable = useStore(outbox.undoable);
  const takeBack = useCallback(() => {
    const name = outbox.undo();
    if (name) goToCell(name);
  }, [outbox]);
  useEffect(() => {
    if (!open) return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== "z" || event.shiftKey || !(event.ctrlKey || event.metaKey)) return;
      const at = event.target;
      // What is being typed is the box's own to take back, and so is a note.
      if (at instanceof HTMLTextAreaElement || (at instanceof HTMLInputElement && at.dataset.dirty)) return;
      if (at instanceof HTMLInputElement && !at.dataset.cell) return;
      event.preventDefault();
      takeBack();
    };
    document.addEventListener("keydown", onKey);
    return () => document.removeEventListener("keydown", onKey);
  }, [open, takeBack]);
  const waiting = Object.keys(entries).length > 0;
  return (
    <>
      <StageTitle
        title={`Measured on ${dateText(inspection.measured_on)}, ${withUnit(inspection.odometer_km, "distance")}`}
        note={
          <>
            <span data-readings>{inspection.given}</span> of {inspection.wanted} readings in · <Saved />
          </>
        }
      >
        <div className="flex flex-wrap gap-2 print:hidden">
          {open && (
            <Button aria-pressed={gauge} onClick={() => setGauge(!gauge)}>
              Gauge: simulated
            </Button>
          )}
          {open && (
            <Button disabled={undoable === 0} onClick={takeBack}>
              Undo the last entry
            </Button>
          )}
          {open ? (
            <Button
              primary
              data-after-cells
              disabled={waiting || finish.isPending}
              onClick={() => finish.mutate({ finished: true })}
            >
              Finish
            </Button>
          ) : (
            !inspection.removed && (
              <Button onClick={() => finish.mutate({ finished: false })}>Open it again</Button>
            )
          )}
          <Button onClick={onBack}>All inspections</Button>
        </div>
      </StageTitle>
      {finish.error && <Failure text={problemText(finish.error)} />}
      {asking > 0 && (
        <p role="alert" className="mb-3 border border-over px-3 py-2 font-semibold">
          <span aria-hidden="true">▲ </span>
          {asking === 1 ? "One entry is not kept: it asks" : `${asking} entries are not kept: they ask`}{" "}
          below.
        </p>
      )}
      {gauge && open && <GaugePanel />}
      <Folded>
        <div className="flex flex-wrap justify-between gap-x-6 print:hidden">
          {open && <HeadFields machineId={machineId} />}
          <Take machineId={machineId} onBack={onBack} />
        </div>
      </Folded>
    </>
  );
}

/** On a phone what stands before the first cell is folded away until it is wanted. */
function Folded({ children }: { children: React.ReactNode }) {
  const [shown, show] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-expanded={shown}
        className="mb-2 min-h-9 text-left underline underline-offset-2 md:hidden print:hidden"
        onClick={() => show(!shown)}
      >
        {shown ? "Fold" : "Day, odometer, washers; print and save"}
      </button>
      <div className={shown ? "" : "max-md:hidden"}>{children}</div>
    </>
  );
}

/** Ways to take the sheet along, or out. */
function Take({ machineId, onBack }: { machineId: number; onBack: () => void }) {
  const { inspection } = useSheet();
  const remove = useRemoveInspection(machineId);
  return (
    <div className="mb-3">
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <button type="button" className="min-h-6 underline underline-offset-2" onClick={printPage}>
          Print
        </button>
        {(["csv", "json"] as const).map((kind) => (
          <a
            key={kind}
            className="min-h-6 underline underline-offset-2"
            href={`/api/inspections/${inspection.id}/file/${kind}`}
            download
          >
            Save as {kind.toUpperCase()}
          </a>
        ))}
        <button
          type="button"
          className="min-h-6 underline underline-offset-2"
          onClick={() =>
            remove.mutate({ row: inspection.id, removed: !inspection.removed }, { onSuccess: onBack })
          }
        >
          {inspection.removed ? "Bring it back" : "Take this inspection out"}
        </button>
      </p>
      {remove.error && <Failure text={problemText(remove.error)} />}
    </div>
  );
}

/** Whether everything that was entered has been kept. */
function Saved() {
  const { outbox, open } = useSheet();
  const connection = useStore(outbox.connection);
  const entries = Object.values(useStore(outbox.entries));
  const waiting = entries.filter((entry) => entry.state === "waiting").length;
  const saved = waiting === entries.length ? "all saved" : "the others are saved";
  if (!open) return <span>finished</span>;
  if (connection.failed && waiting > 0) {
    return (
      <span role="alert" className="text-over">
        <span aria-hidden="true">▲ </span>
        {waiting} not sent yet, kept on this device: {connection.failed}{" "}
        <button
          type="button"
          className="font-semibold underline underline-offset-2"
          onClick={() => void outbox.flush()}
        >
          Try now
        </button>
      </span>
    );
  }
  return <span data-saved={waiting === 0}>{waiting > 0 ? "saving…" : saved}</span>;
}

function HeadFields({ machineId }: { machineId: number }) {
  const { inspection } = useSheet();
  const { system } = useUnits();
  const change = useChangeHead(machineId, inspection.id);
  const problem = change.error instanceof ProblemError ? change.error.problem : null;
  const refused = (name: string) => problem?.fields.find((entry) => entry.field === name)?.allowed;
  const send = (measured_on: string, odometer_km: number) => change.mutate({ measured_on, odometer_km });
  return (
    <div className="mb-3 flex flex-wrap items-start gap-x-6 gap-y-2 print:hidden">
      <DateField
        label="Measured on"
        value={inspection.measured_on}
        refused={refused("measured_on")}
        onCommit={(day) => send(day, inspection.odometer_km)}
      />
      <NumberField
        label="Odometer"
        quantity="distance"
        value={inspection.odometer_km}
        system={system}
        refused={refused("odometer_km")}
        onCommit={(value) => value !== null && send(inspection.measured_on, value)}
      />
      <ReadingCell
        wide
        reading
        name="washers"
        label="Both washers together"
        otherwise="none"
        hint="only if rotors are read over two washers"
      />
      {change.error && !problem?.fields.length && <Failure text={problemText(change.error)} />}
    </div>
  );
}
