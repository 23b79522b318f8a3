// Ticks, readings and pictures of one job that are not with the server yet, in the order they were made.

import type { Schemas } from "../../api/client";
import { Sender } from "../../api/outbox";
import type { Said } from "../../lib/said";
import { createDraft, pictures, type Store } from "../../lib/store";
import { keyOf } from "../../lib/waiting";
import type { Job } from "./queries";

export type Mark = Schemas["MarkIn"];
export type Item = { id: string } & (
  | { kind: "mark"; mark: Mark }
  | { kind: "value"; name: string; value: number | null; seen: number | null }
  | { kind: "photo"; token: string; corner: string; when: "before" | "after" }
);
type Batch = Item[];

export type Wire = {
  marks: (marks: Mark[]) => Promise<Schemas["MarkedOut"]>;
  values: (body: Schemas["ValuesAsk"]) => Promise<Job>;
  photo: (fields: { token: string; corner: string; when: string }, file: Blob) => Promise<unknown>;
};

export type Pictures = Pick<typeof pictures, "get" | "set" | "del">;

// As many at once as the server takes.
const MOST = 50;

let count = 0;
const newId = () => `${Date.now()}-${count++}`;

export class JobOutbox extends Sender<Batch, Schemas["MarkedOut"] | Job | null> {
  readonly items: Store<Item[]>;
  /** What was sent once, and may have arrived although no answer came. */
  private readonly tried = new Set<string>();
  /** Why a mark was not taken, by its step; "" for what belongs to none. */
  readonly refusals: Store<Record<string, Said | string>>;

  constructor(
    machineId: number,
    id: number,
    private readonly wire: Wire,
    private readonly arrived: (job: Job | null) => void,
    later?: (retry: () => void) => void,
    private readonly kept: Pictures = pictures,
  ) {
    super(later);
    this.items = createDraft<Item[]>([], keyOf(machineId, "job", id));
    this.refusals = createDraft<Record<string, Said | string>>({}, `${keyOf(machineId, "job", id)}.refused`);
  }

  /** Say something of a step; what was said before of it and not sent yet no longer counts. */
  mark(said: Pick<Mark, "key" | "kind"> & Partial<Mark>) {
    const mark: Mark = { words: "", torque_Nm: null, source: "hand", ...said, at: new Date().toISOString() };
    const { [mark.key]: _, ...rest } = this.refusals.get();
    this.refusals.set(rest);
    // As it was done: the server's clock may only hear of it an hour later.
    this.put({ id: newId(), kind: "mark", mark });
  }

  value(name: string, value: number | null, seen: number | null) {
    const waiting = this.items.get().findLast((item) => item.kind === "value" && item.name === name);
    if (waiting?.kind === "value" && !this.tried.has(waiting.id)) {
      // Typed over before it was ever sent: what stood there before that still does.
      this.items.set(this.items.get().map((item) => (item === waiting ? { ...waiting, value } : item)));
      void this.flush();
      return;
    }
    this.put({
      id: newId(),
      kind: "value",
      name,
      value,
      seen: waiting?.kind === "value" ? waiting.value : seen,
    });
  }

  async photo(corner: string, when: "before" | "after", file: Blob) {
    const token = `photo-${newId()}`;
    await this.kept.set(token, file);
    this.put({ id: newId(), kind: "photo", token, corner, when });
  }

  private put(item: Item) {
    this.items.set([...this.items.get(), item]);
    void this.flush();
  }

  /** What stands first, and what follows it of the same kind: one request, in order. */
  protected next(): Batch | null {
    const items = this.items.get();
    const first = items[0];
    if (!first) return null;
    if (first.kind === "photo") return [first];
    const names = new Set<string>();
    const end = items.findIndex((item) => {
      if (item.kind !== first.kind) return true;
      if (item.kind !== "value") return false;
      // The same reading twice is two requests: the second has seen the first.
      if (names.has(item.name)) return true;
      names.add(item.name);
      return false;
    });
    return items.slice(0, Math.min(MOST, end < 0 ? items.length : end));
  }

  protected async deliver(batch: Batch) {
    for (const item of batch) this.tried.add(item.id);
    const first = batch[0];
    if (first?.kind === "photo") {
      const file = await this.kept.get(first.token);
      // A picture the device has lost cannot be sent; what waits behind it can.
      if (file) await this.wire.photo({ token: first.token, corner: first.corner, when: first.when }, file);
      return null;
    }
    if (first?.kind === "value") {
      const values: Record<string, number | null> = {};
      const seen: Record<string, number | null> = {};
      for (const item of batch)
        if (item.kind === "value") {
          values[item.name] = item.value;
          seen[item.name] = item.seen;
        }
      return this.wire.values({ values, seen });
    }
    return this.wire.marks(batch.flatMap((item) => (item.kind === "mark" ? [item.mark] : [])));
  }

  protected settle(batch: Batch, answer: Schemas["MarkedOut"] | Job | null) {
    this.drop(batch);
    if (answer === null) {
      const first = batch[0];
      if (first?.kind === "photo") void this.kept.del(first.token);
      this.arrived(null);
    } else if ("refused" in answer) {
      const refusals = { ...this.refusals.get() };
      for (const entry of answer.refused) refusals[entry.key] = entry.reason;
      this.refusals.set(refusals);
      this.arrived(answer.job);
    } else this.arrived(answer);
  }

  protected refuse(batch: Batch, message: string) {
    this.drop(batch);
    const first = batch[0];
    this.refusals.set({ ...this.refusals.get(), [first?.kind === "mark" ? first.mark.key : ""]: message });
    this.arrived(null);
  }

  private drop(batch: Batch) {
    const gone = new Set(batch.map((item) => item.id));
    this.items.set(this.items.get().filter((item) => !gone.has(item.id)));
  }
}
