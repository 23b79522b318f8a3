// What the passenger said and is not with the server yet, in order; said twice it is one.
import { Sender } from "../../api/outbox";
import { createDraft, type Store } from "../../lib/store";
import { keyOf } from "../../lib/waiting";
import type { Event, Run } from "./queries";

const MOST = 100;
let count = 0;

export class RunOutbox extends Sender<Event[], Run> {
  readonly items: Store<Event[]>;
  /** What the server would not take, in its words. */
  readonly refused: Store<string>;

  constructor(
    machineId: number,
    id: number,
    private readonly send: (events: Event[]) => Promise<Run>,
    private readonly arrived: (run: Run | null) => void,
    later?: (retry: () => void) => void,
  ) {
    super(later);
    this.items = createDraft<Event[]>([], keyOf(machineId, "run", id));
    this.refused = createDraft("", `${keyOf(machineId, "run", id)}.refused`);
  }

  say(event: Omit<Event, "token" | "axle" | "moving_mps"> & Partial<Event>) {
    const token = `${Date.now()}-${count++}-${Math.random().toString(36).slice(2, 8)}`;
    this.items.set([...this.items.get(), { axle: "front", moving_mps: 0, ...event, token }]);
    this.refused.set("");
    void this.flush();
  }

  protected next() {
    const items = this.items.get();
    return items.length > 0 ? items.slice(0, MOST) : null;
  }

  protected deliver(events: Event[]) {
    return this.send(events);
  }

  protected settle(events: Event[], run: Run) {
    // First what came of it, then what it came of: in between the card stands where it stood.
    this.arrived(run);
    this.drop(events);
  }

  protected refuse(events: Event[], message: string) {
    this.drop(events);
    this.refused.set(message);
    this.arrived(null);
  }

  private drop(events: Event[]) {
    const gone = new Set(events.map((event) => event.token));
    this.items.set(this.items.get().filter((event) => !gone.has(event.token)));
  }
}
