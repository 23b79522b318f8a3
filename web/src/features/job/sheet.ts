// One job as its page sees it: overlaid with what is on its way, and the ways to say something of it.
import { createContext, useContext } from "react";
import { outboxes, useOutboxOf } from "../../api/outbox";
import { useStore } from "../../lib/store";
import { JobOutbox } from "./outbox";
import { overlaid } from "./overlay";
import { type Job, jobKey, sendMarks, sendPhoto, sendValues } from "./queries";

export type Sheet = { job: Job; machineId: number; outbox: JobOutbox; open: boolean };
export const SheetContext = createContext<Sheet | null>(null);

export function useSheet(): Sheet {
  const sheet = useContext(SheetContext);
  if (!sheet) throw new Error("a step stands outside of its sheet");
  return sheet;
}

/** The outboxes of jobs. */
export const outboxOf = outboxes(
  (queries, machineId, id) =>
    new JobOutbox(
      machineId,
      id,
      {
        marks: (marks) => sendMarks(id, marks),
        values: (body) => sendValues(id, body),
        photo: (fields, file) => sendPhoto(id, fields, file),
      },
      (job) => {
        if (job) queries.setQueryData(jobKey(id), job);
        else void queries.invalidateQueries({ queryKey: jobKey(id) });
        void queries.invalidateQueries({ queryKey: ["machine", machineId] });
      },
    ),
);

export const useOutbox = (machineId: number, id: number) => useOutboxOf(outboxOf, machineId, id);

/** The job with everything that waits laid over it. */
export function useOverlaid(job: Job, outbox: JobOutbox, me: string): Job {
  return overlaid(job, useStore(outbox.items), me);
}
