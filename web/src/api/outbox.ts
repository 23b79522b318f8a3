// What was said beside the machine and is not with the server yet: it outlives a lost connection and a reload, is sent
// one request at a time in the order it was said, and sending it again is harmless.

import { useEffect } from "react";
import { createStore } from "../lib/store";
import { ProblemError, problemText } from "./client";

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
    if (status >= 400 && status < 500 && status !== 401 && status !== 403 && status !== 429) {
      this.refuse(batch, problemText(error));
      return true;
    }
    this.later(() => void this.flush());
    return false;
  }
}

/** Send what waited from before, and again once the device is on a network. */
export function useFlushing(outbox: { flush: () => Promise<void> }) {
  useEffect(() => {
    void outbox.flush();
    const online = () => void outbox.flush();
    window.addEventListener("online", online);
    return () => window.removeEventListener("online", online);
  }, [outbox]);
}
