import { useEffect, useState } from "react";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { createStore, useStore } from "../../lib/store";
import { Button, buttonLook, Failure, StateWord, Working } from "../../ui/basics";
import { useSession } from "../session/queries";
import { Closing } from "./Closing";
import { blockedBy, nextOf, type Part, partsOf, settled } from "./overlay";
import { Panels } from "./Panels";
import { type Job, type Step, useJob } from "./queries";
import { StepBody } from "./StepBody";
import { StepScreen } from "./StepScreen";
import { Recheck, Tabs, Waiting } from "./shared";
import { type Sheet, SheetContext, useOutbox, useOverlaid, useSheet } from "./sheet";
import { timeText, torqueText } from "./words";

type Props = { id: number; machineId: number; onBack: () => void };
type View = "step" | "sheet";

/** How one likes to see a sheet, on this device: one step that fills the screen, or all of it. */
const viewStore = createStore<View | null>(null, "thermaxis.job.view");
const narrow = () => globalThis.matchMedia?.("(max-width: 47.9rem)").matches ?? false;

export function JobPage({ id, machineId, onBack }: Props) {
  const found = useJob(id);
  const me = useSession().data?.user ?? "";
  if (found.error && !found.data)
    return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return <Working>Opening the sheet…</Working>;
  return <Opened kept={found.data} machineId={machineId} me={me} onBack={onBack} />;
}

type OpenedProps = { kept: Job; machineId: number; me: string; onBack: () => void };

function Opened({ kept, machineId, me, onBack }: OpenedProps) {
  const outbox = useOutbox(kept.machine_id, kept.id);
  const job = useOverlaid(kept, outbox, me);
  const chosen = useStore(viewStore);
  const open = job.closed_at === null && !job.abandoned;
  const view: View = open ? (chosen ?? (narrow() ? "step" : "sheet")) : "sheet";
  const sheet: Sheet = { job, machineId, outbox, open };
  return (
    <SheetContext.Provider value={sheet}>
      {view === "step" ? (
        <StepScreen onBack={onBack} onSheet={() => viewStore.set("sheet")} />
      ) : (
        <Whole onBack={onBack} onStep={() => viewStore.set("step")} />
      )}
    </SheetContext.Provider>
  );
}

type WholeProps = { onBack: () => void; onStep: () => void };

/** The whole sheet on a desk: parts, steps one below the other, and beside them what they draw on. */
function Whole({ onBack, onStep }: WholeProps) {
  const { job, open } = useSheet();
  const { system } = useUnits();
  const parts = partsOf(job);
  const done = job.steps.filter(settled).length;
  const next = nextOf(job.steps);
  const [picked, pick] = useState<string | null>(null);
  // With nothing left to do, what follows stands at the end.
  const last = parts[parts.length - 1];
  const part = parts.find((entry) => entry.key === (picked ?? partOf(parts, next)?.key)) ?? last;
  const [shown, show] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another part begins closed
  useEffect(() => show(null), [part?.key]);
  return (
    <>
      <header className="mb-3 flex flex-wrap items-start justify-between gap-3 print:hidden">
        <div>
          <h1 className="text-stage font-semibold leading-tight">
            {job.label}, {job.axle}
            {job.parts && <span className="font-normal"> · {job.parts}</span>}
          </h1>
          <p className="condensed text-muted">
            <span data-progress>{`${done} of ${job.steps.length} steps`}</span> · {timeText(job.cost.took_s)}{" "}
            of {timeText(job.cost.expected_s)}
            <Waiting />
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <Button onClick={onBack}>All jobs</Button>
          {open && <Button onClick={onStep}>Step by step</Button>}
          <a
            className={`inline-flex items-center ${buttonLook()}`}
            href={`/api/jobs/${job.id}/pdf?units=${system}`}
            target="_blank"
            rel="noreferrer"
          >
            Print (PDF)
          </a>
        </div>
      </header>
      <Tabs parts={parts} current={part?.key ?? ""} onPick={pick} />
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_21rem]">
        <div className="min-w-0">
          <ol>
            {part?.steps.map((step) => (
              <Line
                key={step.key}
                step={step}
                next={step.key === next?.key}
                open={shown === step.key}
                onOpen={() => show(shown === step.key ? null : step.key)}
              />
            ))}
          </ol>
          {part?.key === "close" && <Closing />}
          <Notes />
        </div>
        <aside className="min-w-0">
          <Panels />
        </aside>
      </div>
    </>
  );
}

const partOf = (parts: Part[], step: Step | null) =>
  parts.find((part) => part.steps.some((entry) => entry.key === step?.key));

type LineProps = { step: Step; next: boolean; open: boolean; onOpen: () => void };

/** One step of the whole sheet: tick, text, torque, and what stands in its way. */
function Line({ step, next, open, onOpen }: LineProps) {
  const { job, outbox, open: editable } = useSheet();
  const { say } = useUnits();
  const refusals = useStore(outbox.refusals);
  const blocked = blockedBy(step, job.steps);
  const refused = refusals[step.key];
  const why = refused ?? blocked;
  return (
    <li data-step={step.key} data-done={settled(step)} className="border-b border-hairline py-1.5">
      <div className="flex items-start gap-3">
        <button
          type="button"
          aria-pressed={step.done}
          aria-label={`Done: ${step.text}`}
          disabled={!editable || blocked !== null}
          className="mt-0.5 flex size-7 shrink-0 items-center justify-center border border-ink text-base font-bold aria-pressed:bg-ink aria-pressed:text-chalk disabled:opacity-45"
          onClick={() =>
            outbox.mark({
              key: step.key,
              kind: settled(step) ? "open" : "done",
            })
          }
        >
          {step.done ? "✓" : step.words ? "–" : ""}
        </button>
        <div className="min-w-0 flex-1">
          <button type="button" className="text-left" aria-expanded={open} onClick={onOpen}>
            <span className={next ? "font-semibold" : ""}>{step.text}</span>
          </button>
          <p className="condensed text-xs text-muted">
            {[
              step.check && `check: ${step.check}`,
              step.done && `${step.by}`,
              step.words && `not done: ${step.words}`,
            ]
              .filter(Boolean)
              .join(" · ")}
            {step.done && step.held && <StateWord state="over">{say(step.held)}</StateWord>}
            {!settled(step) && why && <span className="block text-close">◐ {say(why)}</span>}
          </p>
        </div>
        <span className="figures shrink-0 text-right text-xs">
          {step.tighten &&
            (step.torque_Nm ? (
              torqueText(step.reached_Nm ?? step.torque_Nm)
            ) : (
              <StateWord state="close">look it up</StateWord>
            ))}
          {step.tighten && step.done && <Recheck step={step} />}
        </span>
      </div>
      {open && (
        <div className="mt-2 ml-10 max-w-160">
          <StepBody step={step} />
        </div>
      )}
    </li>
  );
}

function Notes() {
  const { job } = useSheet();
  if (job.notes.length === 0) return null;
  return (
    <section className="mt-4">
      <h2 className="font-semibold">Worth knowing</h2>
      <ul className="condensed list-disc pl-5 text-muted">
        {job.notes.map((note) => (
          <li key={note.text}>{note.text}</li>
        ))}
      </ul>
    </section>
  );
}
