// What was said beside the machine and is not with the server yet: it outlives a lost connection and a reload, is sent
// one request at a time in the order it was said, and sending it again is harmless.

import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { createStore } from "../lib/store";
import { isSomebodyElse, ProblemError, problemText } from "./client";

export type Connection = { busy: boolean; failed: string | null; savedAt: number | null };

/** Sends one batch after the other; what a batch is, and what becomes of an answer, is its stage's own matter. */
export abstract class Sender<Batch, Answer> {
  readonly connection = createStore<Connection>({ busy: false, failed: null, savedAt: null });
  private again = false;

  constructor(private readonly later: (retry: () => void) => void = (retry) => setTimeout(retry, 3000)) {}

  /** What goes next, or null where nothing waits. */
  protected abstract next(): Batch | null;
  protected abstract deliver(batch: Batch): Promise<Answer>;
  /** The server has it. */
  protected abstract settle(batch: Batch, answer: Answer): void;
  /** The server has understood and will not take it: trying again would change nothing. */
  protected abstract refuse(batch: Batch, message: string): void;

  /** Send all that waits. */
  async flush(): Promise<void> {
    if (this.connection.get().busy) {
      this.again = true;
      return;
    }
    const batch = this.next();
    if (batch === null) return;
    this.connection.set({ ...this.connection.get(), busy: true });
    let tryAgain = true;
    try {
      const answer = await this.deliver(batch);
      this.settle(batch, answer);
      this.connection.set({ busy: false, failed: null, savedAt: Date.now() });
    } catch (error) {
      tryAgain = this.fail(batch, error);
    }
    // Said meanwhile, or more than one batch: each has its own turn.
    if (this.again || (tryAgain && this.next() !== null)) {
      this.again = false;
      await this.flush();
    }
  }

  /** Whether what else waits may go now. */
  private fail(batch: Batch, error: unknown): boolean {
    const status = error instanceof ProblemError ? error.problem.status : 0;
    this.connection.set({ ...this.connection.get(), busy: false, failed: problemText(error) });
    const waits = status === 401 || status === 403 || status === 429 || isSomebodyElse(error);
    if (status >= 400 && status < 500 && !waits) {
      this.refuse(batch, problemText(error));
      return true;
    }
    this.later(() => void this.flush());
    return false;
  }
}

/** Send what waited from before, and again once the device is on a network. */
function useFlushing(outbox: Box) {
  useEffect(() => {
    void outbox.flush();
    const online = () => void outbox.flush();
    window.addEventListener("online", online);
    return () => window.removeEventListener("online", online);
  }, [outbox]);
}

type Box = { flush: () => Promise<void> };
type Find<Of> = (queries: QueryClient, machineId: number, id: number) => Of;

/**
 * The outboxes of one kind, by machine and by what of it: each is made once for as long as the page lives, as two would
 * write over each other what they keep on the device.
 */
export function outboxes<Of extends Box>(make: Find<Of>): Find<Of> {
  const known = new Map<string, Of>();
  return (queries, machineId, id) => {
    const key = `${machineId}/${id}`;
    const outbox = known.get(key) ?? make(queries, machineId, id);
    known.set(key, outbox);
    return outbox;
  };
}

/** One of them, for a page: what waited from before is sent at once. */
export function useOutboxOf<Of extends Box>(find: Find<Of>, machineId: number, id: number): Of {
  const outbox = find(useQueryClient(), machineId, id);
  useFlushing(outbox);
  return outbox;
}
