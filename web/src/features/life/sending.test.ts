// @vitest-environment jsdom
import { beforeEach, expect, it, vi } from "vitest";
import { ProblemError } from "../../api/client";
import { clearDrafts, heldOnes, setPerson } from "../../lib/store";
import { waitingIn } from "../../lib/waiting";
import { type Change, EventOutbox, type Item } from "./sending";
import type { Event } from "./when";

const problem = (status: number, type: string, detail = "") =>
  new ProblemError({ type: `/problems/${type}`, title: "x", status, detail, fields: [] });
const event = (changes: Partial<Event>) => ({ id: 4, version: 1, ...changes }) as Event;
const changed = (version: number): Change =>
  ({ kind: "change", event: 4, body: { name: "Sprint", on: "2027-05-01", duty_id: 1, version } }) as Change;
const driven: Change = { kind: "driven", event: 4, body: { odometer_km: 100 } as never };
const item = (key: string, change: Change): Item => ({ key, name: "Sprint", change });

beforeEach(async () => {
  await clearDrafts();
  await setPerson("ada");
});

/** A server that can be cut off, and what has come through to it. */
function server(answers: (sent: Item) => Event = () => event({ version: 2 })) {
  const came: Item[] = [];
  const retries: (() => void)[] = [];
  const state = { connected: true };
  const box = () =>
    new EventOutbox(
      2,
      async (sent) => {
        if (!state.connected) throw problem(0, "unreachable");
        came.push(sent);
        return answers(sent);
      },
      () => undefined,
      (retry) => retries.push(retry),
    );
  return { came, state, box };
}

it("a change that is answered waits for nothing, and one that is refused at once is not kept", async () => {
  const { box, came } = server((sent) => {
    if (sent.key === "b") throw problem(422, "bad", "too many");
    return event({});
  });
  const outbox = box();
  expect(await outbox.say(item("a", driven))).toBe(true);
  await expect(outbox.say(item("b", driven))).rejects.toThrow("too many");
  expect(came).toHaveLength(2);
  expect(waitingIn(heldOnes())).toEqual([]);
});

it("without a connection changes wait in order over a reload, and arrive once under their keys", async () => {
  const { box, came, state } = server();
  state.connected = false;
  const outbox = box();
  expect(await outbox.say(item("a", changed(1)))).toBe(false);
  expect(await outbox.say(item("b", changed(1)))).toBe(false);
  expect(await outbox.say(item("c", driven))).toBe(false);
  expect(waitingIn(heldOnes())).toMatchObject([{ kind: "events", machineId: 2, waits: 3, stuck: 0 }]);
  state.connected = true;
  const again = box();
  await again.flush();
  expect(came.map((sent) => sent.key)).toEqual(["a", "b", "c"]);
  // The second change was made on top of the first: it has seen what that made of the event.
  expect(came[1]?.change).toEqual(changed(2));
  expect(again.items.get()).toEqual([]);
});

it("what somebody else has changed meanwhile stays until it is decided", async () => {
  const { box, came, state } = server((sent) => {
    if (sent.change.kind === "change" && sent.change.body.version < 3)
      throw problem(409, "changed", "Ben has changed the day.");
    return event({ version: 4 });
  });
  state.connected = false;
  const outbox = box();
  await outbox.say(item("a", changed(1)));
  await outbox.say(item("b", driven));
  state.connected = true;
  await outbox.flush();
  expect(came.map((sent) => sent.key)).toEqual(["a", "b"]);
  expect(outbox.refused.get()).toMatchObject([{ key: "a", why: "Ben has changed the day." }]);
  expect(waitingIn(heldOnes())).toMatchObject([{ waits: 0, stuck: 1 }]);
  const reloaded = box();
  expect(reloaded.refused.get()).toHaveLength(1);
  reloaded.sendAgain("a", event({ version: 3 }));
  await vi.waitFor(() => expect(came).toHaveLength(3));
  expect(came[2]?.change).toEqual(changed(3));
  await vi.waitFor(() => expect(waitingIn(heldOnes())).toEqual([]));
});

it("one that is not wanted any more is forgotten", async () => {
  const { box, came, state } = server();
  state.connected = false;
  const outbox = box();
  await outbox.say(item("a", driven));
  outbox.drop("a");
  state.connected = true;
  await outbox.flush();
  expect(came).toEqual([]);
  expect(waitingIn(heldOnes())).toEqual([]);
});
