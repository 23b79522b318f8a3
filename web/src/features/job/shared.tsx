import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { Failure, StateWord } from "../../ui/basics";
import { type Part, settled } from "./overlay";
import type { Step } from "./queries";
import { useSheet } from "./sheet";

/** What waits for the connection, in the words of who waits. */
export function Waiting() {
  const { outbox } = useSheet();
  const items = useStore(outbox.items);
  const connection = useStore(outbox.connection);
  const refusals = useStore(outbox.refusals);
  const { say } = useUnits();
  const general = refusals[""];
  return (
    <>
      {items.length > 0 && (
        <span data-waiting={items.length} className="condensed">
          {" · "}
          {connection.failed ? (
            <StateWord state="close">{`${items.length} wait for the connection`}</StateWord>
          ) : (
            "saving…"
          )}
        </span>
      )}
      {items.length === 0 && connection.savedAt !== null && (
        <span className="condensed text-muted"> · all saved</span>
      )}
      {general && <Failure text={say(general)} />}
    </>
  );
}

type TabsProps = { parts: Part[]; current: string; onPick: (key: string) => void };

export function Tabs({ parts, current, onPick }: TabsProps) {
  return (
    <fieldset aria-label="Parts of the sheet" className="mb-3 flex border-y border-ink print:hidden">
      {parts.map((part) => {
        const left = part.steps.filter((step) => !settled(step)).length;
        return (
          <button
            key={part.key}
            type="button"
            aria-pressed={part.key === current}
            className="min-h-9 flex-1 px-1 font-semibold aria-pressed:bg-ink aria-pressed:text-chalk"
            onClick={() => onPick(part.key)}
          >
            {part.label} <span className="condensed font-normal">{left === 0 ? "✓" : left}</span>
            <span className="sr-only">{left === 0 ? "all done" : "steps open"}</span>
          </button>
        );
      })}
    </fieldset>
  );
}

/** The second pair of eyes. */
export function Recheck({ step }: { step: Step }) {
  const { outbox, open } = useSheet();
  if (step.rechecked_at)
    return <span className="condensed block text-fine">● checked again by {step.rechecked_by}</span>;
  if (!open) return null;
  return (
    <button
      type="button"
      className="condensed block w-full text-right underline underline-offset-2"
      onClick={() => outbox.mark({ key: step.key, kind: "recheck" })}
    >
      Check again<span className="sr-only">: {step.text}</span>
    </button>
  );
}
