// Changes of the season: sent at once, or kept on this device in the order they were made until there is a connection.

import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { isUnreachable, newKey, type Schemas } from "../../api/client";
import { send, to } from "../../api/hooks";
import { askAgain } from "../../api/keys";
import { useOnce } from "../../api/once";
import { outboxes, Sender, useOutboxOf } from "../../api/outbox";
import { createDraft, type Store } from "../../lib/store";
import { keyOf } from "../../lib/waiting";

type Event = Schemas["EventOut"];
export type Change =
  | { kind: "plan"; body: Schemas["PlanAsk"] }
  | { kind: "change"; event: number; body: Schemas["ChangeAsk"] }
  | { kind: "driven"; event: number; body: Schemas["DrivenAsk"] }
  | { kind: "planned"; event: number }
  | { kind: "removed"; event: number; removed: boolean };
/** A change of one event, called `name`, under the key it was sent with first: it arrives once. */
export type Item = { key: string; name: string; change: Change };
export type Refused = Item & { why: string };

type Send = (item: Item) => Promise<Event | Event[]>;

/** The same change, of the event as it has become since: what was not seen then is seen by whoever sends it again. */
function asOf(item: Item, event: Event): Item {
  const { change } = item;
  if (change.kind !== "change" || change.event !== event.id) return item;
  return { ...item, change: { ...change, body: { ...change.body, version: event.version } } };
}

export class EventOutbox extends Sender<Item, Event | Event[]> {
  readonly items: Store<Item[]>;
  /** What the server would not take, and why: it stays until somebody has decided. */
  readonly refused: Store<Refused[]>;

  constructor(
    machineId: number,
    private readonly send: Send,
    private readonly arrived: () => void,
    later?: (retry: () => void) => void,
  ) {
    super(later);
    const key = keyOf(machineId, "events", 0);
    this.items = createDraft<Item[]>([], key);
    this.refused = createDraft<Refused[]>([], `${key}.refused`);
  }

  /** Send it now; where nothing answers, or others wait before it, it waits. Whether it has arrived. */
  async say(item: Item): Promise<boolean> {
    if (this.items.get().length === 0) {
      try {
        await this.send(item);
        return true;
      } catch (error) {
        if (!isUnreachable(error)) throw error;
      }
    }
    this.items.set([...this.items.get(), item]);
    void this.flush();
    return false;
  }

  /** Send once more what was refused, as a change of the event as it is now. */
  sendAgain(key: string, event: Event | undefined) {
    const found = this.refused.get().find((item) => item.key === key);
    if (!found) return;
    const { why: _, ...item } = found;
    this.drop(key);
    this.items.set([...this.items.get(), event ? asOf(item, event) : item]);
    void this.flush();
  }

  /** It is not wanted any more. */
  drop(key: string) {
    this.items.set(this.items.get().filter((item) => item.key !== key));
    this.refused.set(this.refused.get().filter((item) => item.key !== key));
  }

  protected next() {
    return this.items.get()[0] ?? null;
  }

  protected deliver(item: Item) {
    return this.send(item);
  }

  protected settle(item: Item, answer: Event | Event[]) {
    const left = this.items.get().filter((other) => other.key !== item.key);
    // What follows it was made on top of it, on the same device.
    this.items.set(Array.isArray(answer) ? left : left.map((other) => asOf(other, answer)));
    this.arrived();
  }

  protected refuse(item: Item, why: string) {
    this.refused.set([...this.refused.get(), { ...item, why }]);
    this.items.set(this.items.get().filter((other) => other.key !== item.key));
    this.arrived();
  }
}

async function sendItem(machine_id: number, { key, change }: Item): Promise<Event | Event[]> {
  // Kept with the item: the page may be another one by the time it arrives.
  const headers = { "Idempotency-Key": key };
  if (change.kind === "plan")
    return send("post", "/api/machines/{machine_id}/events", { ...to({ machine_id }, change.body), headers });
  const where = to({ event_id: change.event });
  if (change.kind === "change")
    return send("put", "/api/events/{event_id}", { ...where, headers, body: change.body });
  if (change.kind === "driven")
    return send("put", "/api/events/{event_id}/driven", { ...where, headers, body: change.body });
  if (change.kind === "planned") return send("put", "/api/events/{event_id}/planned", { ...where, headers });
  const { removed } = change;
  return send("put", "/api/events/{event_id}/removed", { ...where, headers, body: { removed } });
}

export const outboxOf = outboxes(
  (queries, machineId) =>
    new EventOutbox(
      machineId,
      (item) => sendItem(machineId, item),
      () => void refresh(queries, machineId),
    ),
);

/** The outbox of a machine's events: there is one. */
export const useEventOutbox = (machineId: number) => useOutboxOf(outboxOf, machineId, 0);

/** After a change of the season everything that follows from it is asked for again. */
export const refresh = (queries: QueryClient, machineId: number) =>
  Promise.all([["machine", machineId], ["machines"], ["planner"]].map((key) => askAgain(queries, key)));

/** Change something of the season; ended well it is either with the server or on this device. */
export function useSeasonChange(machineId: number) {
  const queries = useQueryClient();
  const outbox = outboxOf(queries, machineId, 0);
  return useOnce({
    mutationFn: (asked: { name: string; change: Change }) => outbox.say({ ...asked, key: newKey() }),
    // Kept here, nothing can be asked: it would be waited for.
    onSuccess: (arrived) => (arrived ? refresh(queries, machineId) : undefined),
  });
}
