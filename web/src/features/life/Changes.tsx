import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { capital, dateText } from "../../lib/text";
import { Button, GroupTitle, LinkButton, StateWord } from "../../ui/basics";
import { OrderForm, Orders } from "../orders";

type Change = Schemas["ChangeOut"];

/** What to change before which event and why, and what to order for it. */
export function Changes({ machineId, season }: { machineId: number; season: Schemas["SeasonOut"] }) {
  const [adding, setAdding] = useState(false);
  const groups = new Map<number, Change[]>();
  for (const change of season.changes)
    groups.set(change.before, [...(groups.get(change.before) ?? []), change]);
  return (
    <div className="mt-6 grid gap-x-8 gap-y-6 border-t border-ink pt-4 md:grid-cols-2">
      <section aria-label="What to change">
        <GroupTitle>What to change, before which event</GroupTitle>
        {groups.size === 0 && <p className="text-muted">Everything lasts through the events above.</p>}
        {[...groups.values()].map((changes) => {
          const [first] = changes;
          if (!first) return null;
          return (
            <div key={first.before} className="border-t border-hairline py-2" data-before={first.before}>
              <p className="font-semibold">
                Before {first.event}, {dateText(first.on)}
              </p>
              <ul>
                {changes.map((change) => (
                  <OneChange key={change.key} change={change} currency={season.currency} />
                ))}
              </ul>
              <LinkButton to={`/m/${machineId}/job`}>Plan the job</LinkButton>
            </div>
          );
        })}
      </section>
      <section aria-label="To order">
        <GroupTitle>To order</GroupTitle>
        {season.orders.length > 0 ? (
          <Orders orders={season.orders} currency={season.currency} />
        ) : (
          <p className="text-muted">Nothing on the list for this machine.</p>
        )}
        {adding ? (
          <OrderForm
            currency={season.currency}
            draft={{
              name: "",
              kind: "other",
              machine_id: machineId,
              supplier: "",
              quantity: 1,
              note: "",
              version: 0,
            }}
            onDone={() => setAdding(false)}
          />
        ) : (
          <Button small className="mt-2" onClick={() => setAdding(true)}>
            Put something on the list
          </Button>
        )}
      </section>
    </div>
  );
}

function OneChange({ change, currency }: { change: Change; currency: string }) {
  const units = useUnits();
  const [ordering, setOrdering] = useState(false);
  return (
    <li className="py-1" data-change={change.key}>
      <span className="font-semibold">{capital(change.part)}</span>
      {change.reasons.map((reason) => (
        <p key={reason.template} className="condensed text-muted">
          {capital(units.say(reason))}
        </p>
      ))}
      <div className="flex flex-wrap items-center gap-3">
        <StateWord
          state={
            change.ordered?.ordered_on ? "fine" : change.late ? "over" : change.order_by ? "close" : "fine"
          }
        >
          {change.ordered
            ? change.ordered.ordered_on
              ? "ordered"
              : "on the list"
            : capital(units.say(change.order))}
        </StateWord>
        {change.draft && !ordering && (
          <Button small onClick={() => setOrdering(true)}>
            Put it on the list
          </Button>
        )}
      </div>
      {change.draft && ordering && (
        <OrderForm draft={change.draft} currency={currency} onDone={() => setOrdering(false)} />
      )}
    </li>
  );
}
