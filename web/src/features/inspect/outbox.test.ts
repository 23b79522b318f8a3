// @vitest-environment jsdom

import { beforeEach, expect, it, vi } from "vitest";
import { type Problem, ProblemError, type Schemas } from "../../api/client";
import { verbatim } from "../../lib/said";
import { clearDrafts, setPerson } from "../../lib/store";
import { type Entry, Outbox, type Send } from "./outbox";

const PATIENCE = { timeout: 60_000 };
type Entered = Schemas["EnteredOut"];
const entered = (
  asks: Entered["asks"] = [],
  refused: Entered["refused"] = [],
  clashes: Entered["clashes"] = [],
): Entered => ({
  inspection: { id: 1 } as Schemas["InspectionOut"],
  asks,
  refused,
  clashes,
});
const entry = (value: number): Entry => ({ value, confirmed: false, source: "hand", state: "waiting" });
const problem = (status: number, detail: string): Problem => ({
  type: "/problems/x",
  title: "x",
  status,
  detail,
  fields: [],
});

const sheet: Record<string, number> = {};
const box = (send: Send, retries: (() => void)[] = [], arrived = vi.fn()) =>
  new Outbox(
    1,
    1,
    send,
    arrived,
    (name) => sheet[name] ?? null,
    (retry) => retries.push(retry),
  );

beforeEach(async () => {
  await clearDrafts();
  await setPerson("ada");
});

it("forgets what has arrived and keeps what asks or was refused", async () => {
  const arrived = vi.fn();
  const outbox = box(
    async () =>
      entered(
        [{ name: "b", text: verbatim("thicker than new"), in_inches_m: 0.009, in_mm_m: null }],
        [{ name: "c", allowed: verbatim("one of free, dry") }],
      ),
    [],
    arrived,
  );
  outbox.entries.set({ a: entry(1), b: entry(2), c: entry(3) });
  await outbox.flush();
  expect(Object.keys(outbox.entries.get())).toEqual(["b", "c"]);
  expect(outbox.entries.get().b).toMatchObject({ state: "asks", inInches: 0.009 });
  expect(outbox.entries.get().c?.message).toEqual({
    template: "Allowed: {allowed}.",
    values: { allowed: verbatim("one of free, dry") },
  });
  expect(arrived).toHaveBeenCalledOnce();
});

it("keeps everything through a lost connection and a reload, and sends it once there is one", async () => {
  const retries: (() => void)[] = [];
  const lost = box(() => Promise.reject(new ProblemError(problem(0, "no answer"))), retries);
  lost.put("a", entry(1));
  lost.put("b", entry(2));
  await vi.waitFor(() => expect(retries.length).toBeGreaterThan(0), PATIENCE);
  expect(lost.waiting()).toHaveLength(2);
  expect(lost.connection.get().failed).toBe("no answer");
  const sent: string[][] = [];
  const reloaded = box(async (cells) => {
    sent.push(Object.keys(cells));
    return entered();
  });
  await reloaded.flush();
  expect(sent).toEqual([["a", "b"]]);
  expect(reloaded.entries.get()).toEqual({});
  expect(reloaded.connection.get().failed).toBeNull();
});

it("never has two requests under way and lets a later entry stand", async () => {
  let under = 0;
  const seen: unknown[] = [];
  const outbox: Outbox = box(async (cells) => {
    under += 1;
    expect(under).toBe(1);
    seen.push(cells.a?.value);
    if (seen.length === 1) outbox.put("a", entry(7));
    await Promise.resolve();
    under -= 1;
    return entered();
  });
  outbox.put("a", entry(1));
  await vi.waitFor(() => expect(outbox.entries.get()).toEqual({}), PATIENCE);
  expect(seen).toEqual([1, 7]);
});

it("does not repeat what the server will not take", async () => {
  const retries: (() => void)[] = [];
  const outbox = box(() => Promise.reject(new ProblemError(problem(409, "It is finished."))), retries);
  outbox.put("a", entry(1));
  await vi.waitFor(() => expect(outbox.entries.get().a?.state).toBe("refused"), PATIENCE);
  expect(outbox.entries.get().a?.message).toBe("It is finished.");
  expect(retries).toEqual([]);
});

it("says where somebody else was first, and sends what it saw", async () => {
  const sent: unknown[] = [];
  const outbox = box(async (cells) => {
    sent.push(cells.a);
    return sent.length === 1 ? entered([], [], [{ name: "a", kept: 5 }]) : entered();
  });
  outbox.put("a", { ...entry(1), seen: 2 });
  await vi.waitFor(() => expect(outbox.entries.get().a?.state).toBe("clash"), PATIENCE);
  expect(outbox.entries.get().a?.theirs).toBe(5);
  // Mine all the same: now over what the other one entered.
  outbox.put("a", { ...entry(1), seen: 5 });
  await vi.waitFor(() => expect(outbox.entries.get()).toEqual({}), PATIENCE);
  const said = { value: 1, confirmed: false, source: "hand" };
  expect(sent).toEqual([
    { ...said, seen: 2 },
    { ...said, seen: 5 },
  ]);
});

it("does not clash with itself", async () => {
  const seen: unknown[] = [];
  const outbox: Outbox = box(async (cells) => {
    seen.push(cells.a?.seen);
    if (seen.length === 1) outbox.put("a", { ...entry(7), seen: null });
    return entered();
  });
  outbox.put("a", entry(1));
  await vi.waitFor(() => expect(outbox.entries.get()).toEqual({}), PATIENCE);
  expect(seen).toEqual([null, 1]);
});

it("takes back the last entry and nothing else, whether it was kept, waits or asks", async () => {
  const sent: Record<string, unknown>[] = [];
  let down = false;
  const outbox = box(async (cells) => {
    if (down) throw new Error("no connection");
    sent.push(Object.fromEntries(Object.entries(cells).map(([name, cell]) => [name, cell.value])));
    const asks: string[] = Object.keys(cells).filter((name) => name === "thick");
    for (const [name, cell] of Object.entries(cells))
      if (!asks.includes(name)) sheet[name] = cell.value as number;
    return entered(
      asks.map((name) => ({ name, text: verbatim("thicker than new"), in_inches_m: null, in_mm_m: null })),
    );
  });
  const type = async (name: string, value: number) => {
    outbox.put(name, { ...entry(value), seen: sheet[name] ?? null });
    await vi.waitFor(() => expect(outbox.connection.get().busy).toBe(false), PATIENCE);
  };
  await type("a", 1);
  await type("b", 2);
  await type("b", 3);
  await type("thick", 9);
  expect(outbox.entries.get().thick?.state).toBe("asks");
  expect(outbox.undo()).toBe("thick");
  expect(outbox.entries.get()).toEqual({});
  expect(outbox.undo()).toBe("b");
  await vi.waitFor(() => expect(sent.at(-1)).toEqual({ b: 2 }), PATIENCE);
  expect(outbox.undo()).toBe("b");
  await vi.waitFor(() => expect(sent.at(-1)).toEqual({ b: null }), PATIENCE);
  await vi.waitFor(() => expect(outbox.waiting()).toEqual([]), PATIENCE);
  // Without a connection the taking back waits as the entry did.
  down = true;
  outbox.put("c", { ...entry(4), seen: null });
  await vi.waitFor(() => expect(outbox.connection.get().failed).not.toBeNull(), PATIENCE);
  expect(outbox.undo()).toBe("c");
  expect(outbox.entries.get().c).toMatchObject({ value: null, state: "waiting", seen: null });
  expect(outbox.undo()).toBe("a");
  expect(outbox.undoable.get()).toBe(0);
  expect(outbox.undo()).toBeNull();
});
