// @vitest-environment jsdom

import fc from "fast-check";
import { beforeEach, expect, it, vi } from "vitest";
import { type Problem, ProblemError, type Schemas } from "../../api/client";
import { verbatim } from "../../lib/said";
import { clearDrafts, setPerson } from "../../lib/store";
import { type Item, JobOutbox, type Pictures, type Wire } from "./outbox";
import { blockedBy, nextOf, overlaid, partsOf } from "./overlay";
import type { Fastener, Job, Step } from "./queries";
import { driveText, timeText, toolText, torqueText } from "./words";

const problem = (status: number): Problem => ({
  type: "/problems/x",
  title: "x",
  status,
  detail: "not now",
  fields: [],
});
const step = (key: string, more: Partial<Step> = {}): Step =>
  ({
    key,
    id: key.split("@")[0],
    corner: key.split("@")[1] ?? "",
    phase: "corner",
    text: `Do ${key}`,
    waits_for: [],
    held: null,
    done: false,
    words: "",
    tighten: false,
    torque_Nm: null,
    reached_Nm: null,
    rechecked_at: null,
    ...more,
  }) as Step;
const job = (...steps: Step[]): Job =>
  ({ id: 7, machine_id: 1, axle: "rear", corners: ["left", "right"], steps, values: {} }) as unknown as Job;
const done = (key: string) => ({ key, kind: "done", words: "", torque_Nm: null, source: "hand" }) as const;

const held = new Map<string, Blob>();
const pictures: Pictures = {
  get: async (token) => held.get(token),
  set: async (token, file) => {
    held.set(token, file);
  },
  del: async (token) => {
    held.delete(token);
  },
};
const answered = (refused: Schemas["RefusedMark"][] = []) => ({ job: job(), refused });
const box = (wire: Partial<Wire>, retries: (() => void)[] = [], arrived = vi.fn()) =>
  new JobOutbox(
    1,
    7,
    { marks: async () => answered(), values: async () => job(), photo: async () => null, ...wire },
    arrived,
    (retry) => retries.push(retry),
    pictures,
  );

beforeEach(async () => {
  await clearDrafts();
  held.clear();
  await setPerson("ada");
});

it("sends ticks, readings and pictures in the order they were made, each once", async () => {
  const sent: string[] = [];
  let connected = false;
  const gate = <T>(answer: T) => {
    if (!connected) throw new ProblemError(problem(0));
    return answer;
  };
  const retries: (() => void)[] = [];
  const outbox = box(
    {
      marks: async (marks) => {
        const answer = gate(answered());
        sent.push(`marks ${marks.map((mark) => mark.key).join(" ")}`);
        return answer;
      },
      values: async ({ values, seen }) => {
        const answer = gate(job());
        sent.push(`values ${JSON.stringify(values)} seen ${JSON.stringify(seen)}`);
        return answer;
      },
      photo: async ({ corner, when }, file) => {
        gate(null);
        sent.push(`photo ${corner} ${when} ${file.size}`);
      },
    },
    retries,
  );
  outbox.mark(done("a"));
  outbox.mark(done("b"));
  outbox.value("strokes.left", 1, null);
  outbox.value("strokes.left", 2, null);
  await outbox.photo("left", "before", new Blob(["abcd"]));
  outbox.mark(done("c"));
  await vi.waitFor(() => expect(retries.length).toBeGreaterThan(0));
  expect(sent).toEqual([]);
  expect(outbox.connection.get().failed).toBe("not now");
  // Another page of the same person finds all of it.
  expect(box({}).items.get()).toHaveLength(5);
  connected = true;
  await outbox.flush();
  expect(sent).toEqual([
    "marks a b",
    'values {"strokes.left":2} seen {"strokes.left":null}',
    "photo left before 4",
    "marks c",
  ]);
  expect(outbox.items.get()).toEqual([]);
  expect(held.size).toBe(0);
  await outbox.flush();
  expect(sent).toHaveLength(4);
});

it("keeps why a mark was not taken, and goes on with the rest", async () => {
  const outbox = box({
    marks: async (marks) =>
      answered(
        marks.some((mark) => mark.key === "b") ? [{ place: 0, key: "b", reason: verbatim("first: a") }] : [],
      ),
    values: async () => {
      throw new ProblemError(problem(409));
    },
  });
  outbox.mark(done("b"));
  await vi.waitFor(() => expect(outbox.items.get()).toEqual([]));
  expect(outbox.refusals.get().b).toEqual(verbatim("first: a"));
  outbox.value("level", 0.5, null);
  await vi.waitFor(() => expect(outbox.items.get()).toEqual([]));
  expect(outbox.refusals.get()[""]).toBe("not now");
  expect(outbox.items.get()).toEqual([]);
  // Said again, it is no longer refused.
  outbox.mark(done("b"));
  expect(outbox.refusals.get().b).toBeUndefined();
});

it("does not send what was typed while it was on its way in the place of what went", async () => {
  let answer: (job: Job) => void = () => undefined;
  const seen: unknown[] = [];
  const outbox = box({
    values: (body) => {
      seen.push(body);
      return new Promise((resolve) => {
        answer = resolve;
      });
    },
  });
  outbox.value("strokes.left", 1, null);
  outbox.value("strokes.left", 2, null);
  answer(job());
  await vi.waitFor(() => expect(seen).toHaveLength(2));
  expect(seen[1]).toEqual({ values: { "strokes.left": 2 }, seen: { "strokes.left": 1 } });
  answer(job());
});

const mark = (key: string, kind: "done" | "open" | "words" | "recheck"): Item => ({
  id: `${key}${kind}`,
  kind: "mark",
  mark: {
    key,
    kind,
    words: kind === "words" ? "by hand" : "",
    torque_Nm: null,
    source: "hand",
    at: "2026-11-27T10:00:00Z",
  },
});

it("lays what waits over what the server has", () => {
  const kept = job(step("a"), step("b", { tighten: true, torque_Nm: 30 }), step("c", { done: true }));
  const items: Item[] = [
    mark("a", "words"),
    mark("b", "done"),
    mark("b", "recheck"),
    mark("c", "open"),
    { id: "v", kind: "value", name: "level", value: 0.4, seen: null },
  ];
  const shown = overlaid(kept, items, "ada");
  expect(shown.steps.map((row) => [row.done, row.words, row.reached_Nm, row.rechecked_by ?? ""])).toEqual([
    [false, "by hand", null, ""],
    [true, "", 30, "ada"],
    [false, "", null, ""],
  ]);
  expect(shown.values).toEqual({ level: 0.4 });
  expect(overlaid(kept, [], "ada")).toBe(kept);
});

it("says what a step waits for, by what the hand has ticked", () => {
  const a = step("a");
  const b = step("b", { waits_for: ["a"], held: verbatim("no torque") });
  expect(blockedBy(b, [a, b])).toBe("first: Do a");
  expect(blockedBy(b, [step("a", { done: true }), b])).toEqual(verbatim("no torque"));
  expect(blockedBy(step("b", { done: true, waits_for: ["a"] }), [a, b])).toBeNull();
  expect(blockedBy(a, [a, b])).toBeNull();
});

it("parts a sheet so that every step is in one part", () => {
  const steps = [
    step("x", { phase: "before" }),
    step("y@left"),
    step("z"),
    step("y@right"),
    step("q@front_left", { phase: "close" }),
  ];
  const parts = partsOf(job(...steps));
  expect(parts.map((part) => [part.label, part.steps.map((row) => row.key)])).toEqual([
    ["Before", ["x"]],
    ["Rear left", ["y@left"]],
    ["Rear right", ["z", "y@right"]],
    ["Close", ["q@front_left"]],
  ]);
  expect(nextOf(steps)?.key).toBe("x");
});

it("writes a torque in both units, and they are the same torque", () => {
  expect(torqueText(90)).toBe("90 N m · 66 lbf ft");
  fc.assert(
    fc.property(fc.double({ min: 1, max: 1000, noNaN: true }), (torque) => {
      const [metric, imperial] = torqueText(torque)
        .split(" · ")
        .map((text) => Number.parseFloat(text));
      const step = torque < 20 ? 0.05 : 0.5;
      expect(Math.abs((metric ?? 0) - torque)).toBeLessThanOrEqual(step + 1e-9);
      expect(Math.abs((imperial ?? 0) - 0.737562 * torque)).toBeLessThanOrEqual(step + 1e-9);
    }),
  );
});

it("names a tool by its drive and size", () => {
  const fastener = { drive: "hex", size_m: 0.013, counter_hold_m: 0.016 } as Fastener;
  expect(driveText(fastener)).toBe("13 mm hex");
  expect(toolText(step("a", { tool: "" }), fastener)).toBe("13 mm hex, 16 mm to hold");
  expect(driveText({ ...fastener, size_m: null })).toBe("");
  expect([timeText(90), timeText(5700)]).toEqual(["2 min", "1 h 35 min"]);
});
