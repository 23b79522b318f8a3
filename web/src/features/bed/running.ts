// The outbox of a run for as long as the page lives.
import { useEffect, useState } from "react";
import { outboxes, useOutboxOf } from "../../api/outbox";
import { createDraft, SEEN, type Store } from "../../lib/store";
import { RunOutbox } from "./outbox";
import { later } from "./overlay";
import { type Run, runKey, sendEvents } from "./queries";

type Kept = { run: Run | null; skew_ms: number; begun: boolean };

const seen = new Map<number, Store<Kept>>();
/** A run as it was last seen, so that it opens without a connection; `skew` sets this device's clock to the server's. */
export function keptOf(id: number): Store<Kept> {
  const kept = seen.get(id) ?? createDraft<Kept>({ run: null, skew_ms: 0, begun: false }, `run.${id}${SEEN}`);
  seen.set(id, kept);
  return kept;
}

/** Take in an answer about a run, unless a later one is known. */
export function see(run: Run) {
  const store = keptOf(run.id);
  const before = store.get();
  if (later(before.run, run) === before.run) return;
  const skew_ms = before.run ? before.skew_ms : Date.now() - Date.parse(run.now);
  store.set({ ...before, run, skew_ms });
}

/** What the passenger says of a run goes here. */
export const outboxOf = outboxes(
  (queries, machineId, id) =>
    new RunOutbox(
      machineId,
      id,
      (events) => sendEvents(id, events),
      (run) => {
        if (run) {
          see(run);
          queries.setQueryData(runKey(id), run);
        } else void queries.invalidateQueries({ queryKey: runKey(id) });
        void queries.invalidateQueries({ queryKey: ["machine", machineId, "plans"] });
      },
    ),
);

export const useRunOutbox = (machineId: number, id: number) => useOutboxOf(outboxOf, machineId, id);

/** The time, told anew a few times a second while somebody looks. */
export function useNow(): number {
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, []);
  return now;
}
