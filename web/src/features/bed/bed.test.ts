// @vitest-environment jsdom
import { beforeEach, expect, it, vi } from "vitest";
import { type Problem, ProblemError } from "../../api/client";
import * as connection from "../../lib/connection";
import * as device from "../../lib/device";
import { clearDrafts, setPerson } from "../../lib/store";
import { RunOutbox } from "./outbox";
import { later, leftOf, overlaid, secondsOf } from "./overlay";
import type { Event, Item, Run } from "./queries";
import { alike, minutesText } from "./Schools";

beforeEach(async () => {
  await clearDrafts();
  await setPerson("ada");
});

function item(stop: number, more: Partial<Item> = {}): Item {
  return {
    phase: "hard",
    stop,
    stops: 1,
    from_mps: 28,
    to_mps: 6,
    decel_g: 0.5,
    how: "firm, belts hold you",
    then_s: 40,
    then_mps: 20,
    way_m: 900,
    time_s: 44,
    front_C: 100 + 20 * stop,
    rear_C: 80 + 10 * stop,
    ...more,
  };
}

function run(done: number, more: Partial<Run> = {}): Run {
  const all = [1, 2, 3, 4, 5].map((stop) => item(stop));
  return {
    id: 7,
    plan_id: 3,
    machine_id: 1,
    machine: "Kit roadster",
    pad: "Garth Road",
    label: "Hard from speed",
    front: { low_C: 150, high_C: 300 },
    rear: { low_C: 150, high_C: 300 },
    started_at: "2026-05-01T10:00:00Z",
    ended_at: null,
    now: "2026-05-01T10:00:00Z",
    kinds: all.slice(0, done).map(() => "done" as const),
    tokens: [],
    planned: all,
    did: all
      .slice(0, done)
      .map((one, place) => ({ how: "done" as const, at_s: 50 * (place + 1), item: one })),
    left: all.slice(done),
    reads: [],
    gap_s: done > 0 ? 40 : 0,
    gap_mps: 20,
    waits_from_s: done > 0 ? 50 * done : null,
    traffic_s: 60,
    cooling: 1,
    cooling_low: 0.8,
    cooling_high: 1.25,
    said: null,
    word: "partly",
    words: { front: "partly", rear: "partly" },
    closed: null,
    ...more,
  };
}

const said = (kind: Event["kind"], at_s: number): Event => ({
  token: `${kind}-${at_s}`,
  kind,
  at_s,
  axle: "front",
  moving_mps: 0,
});

it("shows a run as the hand has left it", () => {
  const fresh = overlaid(run(0), []);
  expect([fresh.number, fresh.total, fresh.item?.stop, fresh.gap, fresh.canUndo]).toEqual([
    1,
    5,
    1,
    null,
    false,
  ]);
  const ahead = overlaid(run(1), [said("done", 95), said("harder", 140)]);
  expect([ahead.number, ahead.total, ahead.item?.stop, ahead.next?.stop]).toEqual([4, 5, 4, 5]);
  expect(ahead.gap).toEqual({ seconds: 40, speed_mps: 20, from_s: 140 });
  expect(ahead.did.map((did) => did.how)).toEqual(["done", "done", "harder"]);
  // Skipped, the gap before it goes on; in traffic it begins anew.
  const skipped = overlaid(run(2), [said("skip", 130)]);
  expect([skipped.item?.stop, skipped.gap?.from_s]).toEqual([4, 100]);
  const held = overlaid(run(2), [said("traffic", 135)]);
  expect([held.item?.stop, held.gap]).toEqual([3, { seconds: 60, speed_mps: 20, from_s: 135 }]);
  // What has arrived is not counted twice while it still waits here.
  const known = overlaid(run(2, { tokens: ["done-100"] }), [said("done", 100), said("done", 140)]);
  expect(known.number).toBe(4);
  // Whatever was last is taken back, sent already or not; what is left behind it is what it was.
  const back = overlaid(run(2), [said("done", 140), said("undo", 141), said("undo", 142)]);
  expect([back.item?.stop, back.number, back.gap?.from_s]).toEqual([2, 2, 50]);
  expect(overlaid(run(2), [said("traffic", 135), said("undo", 136)]).item?.stop).toBe(3);
  const over = overlaid(run(5), []);
  expect([over.item, over.left]).toEqual([null, []]);
});

it("believes the later of two answers", () => {
  const older = run(1);
  const newer = run(2, { now: "2026-05-01T10:02:00Z" });
  expect([later(older, newer), later(newer, older), later(null, older), later(undefined, null)]).toEqual([
    newer,
    newer,
    older,
    null,
  ]);
});

it("knows an answer of the device by one name", () => {
  expect(device.FROM_DEVICE).toBe(connection.FROM_DEVICE);
  expect(
    [
      "/api/session",
      "/api/machines/3",
      "/api/bedding-runs/7",
      "/api/inspections/12",
      "/api/events/4/ready",
    ].every((url) => device.KEPT_ANSWERS.test(url)),
  ).toBe(true);
  expect(device.KEPT_ANSWERS.test("/api/machines/3/log")).toBe(false);
});

it("counts a gap by the clock of the server", () => {
  const began = Date.parse("2026-05-01T10:00:00Z");
  expect(secondsOf(run(1), began + 62_000, 0)).toBe(62);
  // This device is an hour ahead, and knows.
  expect(secondsOf(run(1), began + 3_662_000, 3_600_000)).toBe(62);
  expect(secondsOf(run(1), began - 5000, 0)).toBe(0);
  const gap = { seconds: 40, speed_mps: 20, from_s: 50 };
  expect([leftOf(gap, 62), leftOf(gap, 89.4), leftOf(gap, 95), leftOf(null, 3)]).toEqual([28, 1, 0, 0]);
});

it("puts alike brakings together and says how long", () => {
  expect(
    alike([item(1), item(2), item(3, { from_mps: 33 }), item(4, { stops: 3 })]).map((one) => one.length),
  ).toEqual([2, 1, 1]);
  expect([minutesText(1020), minutesText(15_300)]).toEqual(["17 min", "4.3 h"]);
});

const problem = (status: number): Problem => ({ status, title: "", type: "", detail: "not now", fields: [] });

it("keeps what was said until it has arrived, once and in order", async () => {
  const sent: string[][] = [];
  let connected = false;
  const retries: (() => void)[] = [];
  const box = () =>
    new RunOutbox(
      1,
      7,
      async (events) => {
        if (!connected) throw new TypeError("no connection");
        sent.push(events.map((event) => event.kind));
        return run(events.length);
      },
      () => undefined,
      (retry) => retries.push(retry),
    );
  const outbox = box();
  outbox.say({ kind: "done", at_s: 50 });
  outbox.say({ kind: "harder", at_s: 95 });
  outbox.say({ kind: "reading", at_s: 110, value_C: 210, since_s: 15, moving_mps: 20 });
  await vi.waitFor(() => expect(retries.length).toBeGreaterThan(0));
  // The page loaded again finds all of it, each under the name it was said with.
  const again = box();
  expect(again.items.get().map((event) => event.token)).toEqual(
    outbox.items.get().map((event) => event.token),
  );
  expect(new Set(again.items.get().map((event) => event.token)).size).toBe(3);
  connected = true;
  await again.flush();
  expect(sent).toEqual([["done", "harder", "reading"]]);
  expect(again.items.get()).toEqual([]);
});

it("says what the server does not take, and goes on", async () => {
  const outbox = new RunOutbox(
    1,
    8,
    async () => {
      throw new ProblemError(problem(409));
    },
    () => undefined,
    () => undefined,
  );
  outbox.say({ kind: "done", at_s: 50 });
  await vi.waitFor(() => expect(outbox.items.get()).toEqual([]));
  expect(outbox.refused.get()).toBe("not now");
});
