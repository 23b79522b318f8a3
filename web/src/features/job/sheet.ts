// One job as its page sees it: overlaid with what is on its way, and the ways to say something of it.
import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { useFlushing } from "../../api/outbox";
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

// One outbox per job for as long as the page lives: two would write over each other what they keep on the device.
const outboxes = new Map<number, JobOutbox>();

/** The outbox of a job. */
export function outboxOf(queries: QueryClient, machineId: number, id: number): JobOutbox {
  const outbox =
    outboxes.get(id) ??
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
    );
  outboxes.set(id, outbox);
  return outbox;
}

export function useOutbox(machineId: number, id: number): JobOutbox {
  const outbox = outboxOf(useQueryClient(), machineId, id);
  useFlushing(outbox);
  return outbox;
}

/** The job with everything that waits laid over it. */
export function useOverlaid(job: Job, outbox: JobOutbox, me: string): Job {
  return overlaid(job, useStore(outbox.items), me);
}
