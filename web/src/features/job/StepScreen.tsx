import { Camera, ChevronLeft } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { PictureButton } from "../../ui/PictureButton";
import { useMachine } from "../machine/queries";
import { Closing } from "./Closing";
import { blockedBy, nextOf, partsOf, settled } from "./overlay";
import { Panels } from "./Panels";
import { StepBody } from "./StepBody";
import { Recheck, Tabs, Waiting } from "./shared";
import { useSheet } from "./sheet";
import { cornerText, timeText } from "./words";

type Props = { onBack: () => void; onSheet: () => void };

/** One step fills the screen: what, with which tool and torque, the caution, done, and then the next. */
export function StepScreen({ onBack, onSheet }: Props) {
  const { job, machineId, outbox } = useSheet();
  const machine = useMachine(machineId).data;
  const parts = partsOf(job);
  const next = nextOf(job.steps);
  const [at, go] = useState<string | null>(null);
  const [more, setMore] = useState(false);
  const current = job.steps.find((step) => step.key === at) ?? next ?? job.steps[job.steps.length - 1];
  const moved = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another step is read from its beginning
  useEffect(() => {
    if (moved.current) globalThis.scrollTo?.({ top: 0 });
    moved.current = true;
  }, [current?.key]);
  if (!current) return null;
  const part = parts.find((entry) => entry.steps.some((step) => step.key === current.key));
  const place = part ? part.steps.findIndex((step) => step.key === current.key) + 1 : 0;
  const index = job.steps.findIndex((step) => step.key === current.key);
  const blocked = blockedBy(current, job.steps);
  const after =
    job.steps.slice(index + 1).find((step) => !settled(step)) ??
    nextOf(job.steps.filter((step) => step.key !== current.key));
  const all = next === null;
  return (
    <div className="pb-24">
      <header className="-mx-4 -mt-4 border-b border-ink px-4 py-2">
        <div className="flex items-baseline justify-between gap-2">
          <h1 className="font-semibold">{machine?.name ?? job.label}</h1>
          <span className="figures">
            <span data-progress className="font-semibold">
              {job.steps.filter(settled).length}
            </span>{" "}
            / {job.steps.length}
          </span>
        </div>
        <p className="condensed text-muted">
          {job.label.toLowerCase()}, {job.axle} · {timeText(job.cost.took_s)}
          <Waiting />
        </p>
      </header>
      <div className="-mx-4">
        <Tabs
          parts={parts}
          current={part?.key ?? ""}
          onPick={(key) => {
            const picked = parts.find((entry) => entry.key === key);
            go((nextOf(picked?.steps ?? []) ?? picked?.steps[0])?.key ?? null);
          }}
        />
      </div>
      <article data-step={current.key} data-done={settled(current)}>
        <p className="condensed mb-2 text-muted">
          {current.corner ? cornerText(job.axle, current.corner) : part?.label} · step {place} of{" "}
          {part?.steps.length}
        </p>
        <h2 className="mb-3 text-2xl font-bold leading-tight">{current.text}</h2>
        <StepBody step={current} />
        {current.tighten && current.done && <Recheck step={current} />}
      </article>
      {all && <Closing />}
      <details className="mt-4" open={more} onToggle={(event) => setMore(event.currentTarget.open)}>
        <summary className="cursor-pointer underline underline-offset-2">
          Fasteners, cost, pictures and the rest of the sheet
        </summary>
        {more && (
          <div className="mt-2">
            <p className="mb-3 flex flex-wrap gap-4">
              <button type="button" className="underline underline-offset-2" onClick={onSheet}>
                The whole sheet
              </button>
              <button type="button" className="underline underline-offset-2" onClick={onBack}>
                All jobs
              </button>
            </p>
            <Panels />
          </div>
        )}
      </details>
      <div className="fixed inset-x-0 bottom-[60px] z-9 bg-chalk md:left-14 md:bottom-0 wide:left-50">
        {after && after.key !== current.key && (
          <p className="condensed truncate border-t border-ink px-4 py-1.5">
            <span className="text-muted">Next</span> {after.text}
          </p>
        )}
        <div className="flex border-t border-ink">
          <button
            type="button"
            disabled={index <= 0}
            className="flex min-h-14 items-center justify-center gap-1 px-4 font-semibold disabled:opacity-45"
            onClick={() => go(job.steps[index - 1]?.key ?? null)}
          >
            <ChevronLeft size={16} aria-hidden="true" /> Back
          </button>
          <Picture corner={current.phase === "corner" ? current.corner : ""} />
          {settled(current) ? (
            <>
              <button
                type="button"
                className="min-h-14 flex-1 border-l border-ink font-semibold"
                onClick={() => outbox.mark({ key: current.key, kind: "open" })}
              >
                Not done
              </button>
              {after && (
                <button
                  type="button"
                  className="min-h-14 flex-1 bg-ink text-lg font-bold text-chalk"
                  onClick={() => go(after.key)}
                >
                  Next
                </button>
              )}
            </>
          ) : (
            <button
              type="button"
              data-done-button
              disabled={blocked !== null}
              className="min-h-14 flex-1 bg-ink text-lg font-bold text-chalk disabled:bg-hairline disabled:text-muted"
              onClick={() => {
                outbox.mark({ key: current.key, kind: "done" });
                go(after?.key ?? null);
              }}
            >
              Done
            </button>
          )}
        </div>
      </div>
    </div>
  );
}

/** A picture of this corner, before until it is all together. */
function Picture({ corner }: { corner: string }) {
  const { job, outbox } = useSheet();
  const late = job.steps.some(
    (step) => step.corner === corner && step.id === "turn_by_hand" && settled(step),
  );
  return (
    <PictureButton
      className="min-h-14 gap-1 border-l border-ink px-4 font-semibold"
      onPicture={(file) => void outbox.photo(corner, late ? "after" : "before", file)}
    >
      <Camera size={16} aria-hidden="true" /> Photo
    </PictureButton>
  );
}
