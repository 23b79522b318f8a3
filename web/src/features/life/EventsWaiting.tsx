import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { dateText } from "../../lib/text";
import { Button, GroupTitle, StateWord } from "../../ui/basics";
import { type Item, useEventOutbox } from "./sending";
import { type Event, whenText } from "./when";

type Props = { machineId: number; events: Event[] };

/** Changes of the season that are on this device only: those to be sent, and those the server did not take. */
export function EventsWaiting({ machineId, events }: Props) {
  const outbox = useEventOutbox(machineId);
  const items = useStore(outbox.items);
  const refused = useStore(outbox.refused);
  const connection = useStore(outbox.connection);
  if (items.length + refused.length === 0) return null;
  const eventOf = ({ change }: Item) =>
    events.find((event) => change.kind !== "plan" && event.id === change.event);
  return (
    <section aria-label="On this device only" className="mb-4">
      <GroupTitle>On this device only</GroupTitle>
      <ul className="border-t border-ink">
        {items.map((item, index) => (
          <li key={item.key} data-waits className="border-b border-hairline py-2">
            <StateWord state="close">
              <Words item={item} /> – waits for the connection.
            </StateWord>
            {/* One that is on its way may have arrived: it is taken back as any other change is. */}
            {!(index === 0 && connection.busy) && (
              <Button small className="ml-2" onClick={() => outbox.drop(item.key)}>
                Forget it
              </Button>
            )}
          </li>
        ))}
        {refused.map((item) => {
          const event = eventOf(item);
          return (
            <li key={item.key} data-refused className="border-b border-hairline py-2">
              <StateWord state="over">
                Not taken: <Words item={item} />
              </StateWord>
              <p className="condensed">{item.why}</p>
              {event && (
                <p className="condensed text-muted">
                  There now: {event.name}, {whenText(event)}, {event.duty}, {timesText(event.sessions)}
                  {event.state === "planned" ? "" : `, ${event.state === "driven" ? "driven" : "left out"}`}.
                </p>
              )}
              <p className="mt-1 flex gap-2">
                <Button small onClick={() => outbox.sendAgain(item.key, event)}>
                  Send mine all the same
                </Button>
                <Button small onClick={() => outbox.drop(item.key)}>
                  Leave it as it is there
                </Button>
              </p>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

const timesText = (sessions = 1) => (sessions === 1 ? "once" : `${sessions} times`);

/** The events something waits for here: what becomes of them is decided there first. */
export function useWaitingEvents(machineId: number): Set<number> {
  const items = useStore(useEventOutbox(machineId).items);
  return new Set(items.flatMap(({ change }) => (change.kind === "plan" ? [] : [change.event])));
}

function Words({ item: { name, change } }: { item: Item }) {
  const units = useUnits();
  if (change.kind === "plan") return `${name}, planned for ${dateText(change.body.on)}`;
  if (change.kind === "change")
    return `${name}, changed to ${dateText(change.body.on)}, ${timesText(change.body.sessions)}`;
  if (change.kind === "removed") return `${name}, ${change.removed ? "taken out" : "brought back"}`;
  if (change.kind === "planned") return `${name}, what became of it taken back`;
  if (change.body.left_out) return `${name}, left out`;
  return `${name}, driven ${timesText(change.body.sessions)}, odometer ${units.withUnit(change.body.odometer_km, "distance")}`;
}
