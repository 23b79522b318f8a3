// The outbox of a run for as long as the page lives.
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useFlushing } from "../../api/outbox";
import { RunOutbox } from "./outbox";
import { runKey, sendEvents } from "./queries";

const outboxes = new Map<number, RunOutbox>();

/** What the passenger says of a run goes here; what waited from before is sent at once. */
export function useRunOutbox(id: number, machineId: number): RunOutbox {
  const queries = useQueryClient();
  const outbox =
    outboxes.get(id) ??
    new RunOutbox(
      id,
      (events) => sendEvents(id, events),
      (run) => {
        if (run) queries.setQueryData(runKey(id), run);
        else void queries.invalidateQueries({ queryKey: runKey(id) });
        void queries.invalidateQueries({ queryKey: ["machine", machineId, "plans"] });
      },
    );
  outboxes.set(id, outbox);
  useFlushing(outbox);
  return outbox;
}

/** The time, told anew a few times a second while somebody looks. */
export function useNow(): number {
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, []);
  return now;
}
