// What was entered but is not with the server yet. It outlives a reload and a lost connection; sending again is harmless.

import type { Schemas } from "../../api/client";
import { Sender } from "../../api/outbox";
import type { Said } from "../../lib/said";
import { createDraft, createStore, type Store } from "../../lib/store";
import { keyOf } from "../../lib/waiting";
import type { CellValue } from "./queries";

export type Entry = {
  value: CellValue | null;
  confirmed: boolean;
  source: "hand" | "gauge";
  /**
   * waiting: to be sent; asks: the server doubts it; refused: it cannot be; wrong: not understood as typed; clash:
   * somebody else has entered something else meanwhile, `theirs`.
   */
  state: "waiting" | "asks" | "refused" | "wrong" | "clash";
  /** What stood in the cell when this was entered. */
  seen?: CellValue | null;
  theirs?: CellValue | null;
  text?: string;
  message?: string | Said;
  inInches?: number | null;
  inMm?: number | null;
};
export type Box = Record<string, Entry>;

export type Send = (cells: Record<string, Schemas["CellIn"]>) => Promise<Schemas["EnteredOut"]>;

/** The entries of one inspection that wait, ask or were refused. */
export class Outbox extends Sender<[string, Entry][], Schemas["EnteredOut"]> {
  readonly entries: Store<Box>;
  /** What was entered here, oldest first, each with what stood in its cell before. */
  private readonly done: { name: string; before: CellValue | null }[] = [];
  readonly undoable = createStore(0);

  constructor(
    machineId: number,
    id: number,
    private readonly send: Send,
    private readonly arrived: (found: Schemas["InspectionOut"]) => void,
    private readonly kept: (name: string) => CellValue | null = () => null,
    later?: (retry: () => void) => void,
  ) {
    super(later);
    this.entries = createDraft<Box>({}, keyOf(machineId, "inspection", id));
  }

  put(name: string, entry: Entry) {
    const before = this.entries.get()[name];
    // What could not be read was never in the cell: there is nothing to take back but the text.
    this.done.push({ name, before: before?.state === "waiting" ? before.value : (entry.seen ?? null) });
    this.undoable.set(this.done.length);
    // Typed over one's own entry that is not with the server yet: what stood there before that one still does.
    const seen = before?.state === "waiting" ? before.seen : (entry.seen ?? null);
    this.entries.set({ ...this.entries.get(), [name]: { ...entry, seen } });
    if (entry.state === "waiting") void this.flush();
  }

  drop(name: string) {
    const { [name]: _, ...rest } = this.entries.get();
    this.entries.set(rest);
  }

  /** Take back the last entry and nothing else: what stood in its cell before stands there again. Its name, or null. */
  undo(): string | null {
    const last = this.done.pop();
    this.undoable.set(this.done.length);
    if (!last) return null;
    const { name, before } = last;
    const entry = this.entries.get()[name];
    if (entry && entry.state !== "waiting") {
      // It was not kept: the cell still holds what it held.
      this.drop(name);
      return name;
    }
    const next = { value: before, confirmed: true, source: "hand", state: "waiting" } as const;
    const seen = entry ? entry.seen : this.kept(name);
    this.entries.set({ ...this.entries.get(), [name]: { ...next, seen: seen ?? null } });
    void this.flush();
    return name;
  }

  waiting(): [string, Entry][] {
    return Object.entries(this.entries.get()).filter(([, entry]) => entry.state === "waiting");
  }

  protected next() {
    const waiting = this.waiting();
    return waiting.length > 0 ? waiting : null;
  }

  protected deliver(sent: [string, Entry][]) {
    const cells = Object.fromEntries(
      sent.map(([name, { value, confirmed, source, seen = null }]) => [
        name,
        { value, confirmed, source, seen },
      ]),
    );
    return this.send(cells);
  }

  protected settle(sent: [string, Entry][], found: Schemas["EnteredOut"]) {
    const box = { ...this.entries.get() };
    for (const [name, entry] of sent) {
      // Typed over while it was on its way: the newer entry waits for its own turn.
      const newer = box[name];
      if (newer !== entry) {
        if (newer?.state === "waiting") box[name] = { ...newer, seen: entry.value };
        continue;
      }
      const clash = found.clashes.find((row) => row.name === name);
      const ask = found.asks.find((row) => row.name === name);
      const refused = found.refused.find((row) => row.name === name);
      if (clash) box[name] = { ...entry, state: "clash", theirs: clash.kept };
      else if (ask)
        box[name] = {
          ...entry,
          state: "asks",
          message: ask.text,
          inInches: ask.in_inches_m,
          inMm: ask.in_mm_m,
        };
      else if (refused)
        box[name] = {
          ...entry,
          state: "refused",
          message: { template: "Allowed: {allowed}.", values: { allowed: refused.allowed } },
        };
      else delete box[name];
    }
    this.entries.set(box);
    this.arrived(found.inspection);
  }

  protected refuse(sent: [string, Entry][], message: string) {
    const box = { ...this.entries.get() };
    for (const [name, entry] of sent) {
      if (box[name] === entry) box[name] = { ...entry, state: "refused", message };
    }
    this.entries.set(box);
  }
}
