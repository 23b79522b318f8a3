import { useState } from "react";
import { Link, useParams } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { capital, dateText } from "../../lib/text";
import {
  buttonLook,
  Caution,
  Failure,
  GroupTitle,
  StageTitle,
  type State,
  StateWord,
  Working,
} from "../../ui/basics";
import { NumberField } from "../../ui/NumberField";
import { useReady } from "./season";

const looks: Record<Schemas["ReadyOut"]["word"], { state: State; words: string }> = {
  go: { state: "fine", words: "Go" },
  look: { state: "close", words: "Look first" },
  "no-go": { state: "over", words: "No-go" },
};

/** One page before an event: go, look or no-go, why, and what to take along. */
export function ReadyPage() {
  const machineId = useMachineId();
  const { eventId } = useParams();
  const units = useUnits();
  const [air, setAir] = useState<number | null>(null);
  const ready = useReady(Number(eventId), air);
  const away = (
    <Link className="underline underline-offset-2" to={`/m/${machineId}/life`}>
      Back to the season
    </Link>
  );
  if (ready.error)
    return (
      <>
        <Failure text={problemText(ready.error)} retry={() => ready.refetch()} />
        {away}
      </>
    );
  if (!ready.data) return <Working>Judging every part for this day…</Working>;
  const { data } = ready;
  const look = looks[data.word];
  const print = `/api/events/${data.event_id}/ready/pdf?system=${units.system}${air === null ? "" : `&air_C=${air}`}`;
  return (
    <article data-ready={data.word} className="max-w-3xl">
      <StageTitle
        title={`Ready for ${data.name}?`}
        note={`${data.machine} · ${dateText(data.on)} · ${data.duty}`}
      >
        <a
          href={print}
          target="_blank"
          rel="noreferrer"
          className={`inline-flex items-center ${buttonLook(true)}`}
        >
          Print it, one page
        </a>
      </StageTitle>
      <p className="mb-3 border-y border-ink py-3 text-stage">
        <StateWord state={look.state}>{look.words}</StateWord>
      </p>
      <div className="mb-3 w-48">
        <NumberField
          label="Air that day, as forecast"
          path="air_C"
          quantity="temperature"
          value={air ?? data.air_C}
          system={units.system}
          onPreview={() => undefined}
          onCommit={setAir}
        />
      </div>
      <ul className="border-t border-ink">
        {data.reasons.map((reason) => (
          <li
            key={units.say(reason.text)}
            className="flex items-baseline justify-between gap-4 border-b border-hairline py-1.5"
          >
            <StateWord state={reason.state}>{capital(units.say(reason.text))}</StateWord>
            {reason.state !== "fine" && (
              <Link
                className="condensed inline-flex min-h-6 shrink-0 items-center underline underline-offset-2 bay:min-h-11"
                to={`/m/${machineId}/${reason.stage}`}
              >
                Put it right
              </Link>
            )}
          </li>
        ))}
      </ul>
      <section aria-label="To take along" className="mt-5">
        <GroupTitle>To take along</GroupTitle>
        <ul className="grid gap-x-6 sm:grid-cols-2">
          {data.take.map((thing) => (
            <li key={`${thing.name}${thing.size_m}`} className="border-t border-hairline py-1">
              {thing.name}
              {thing.size_m !== null && ` ${Math.round(10000 * thing.size_m) / 10} mm`}
            </li>
          ))}
        </ul>
      </section>
      <Caution>
        This supports a decision, it certifies nothing. Look at pads, rings, hoses and fluid before the first
        lap and after the last; wheel bolts by torque wrench again after the first drive; the vehicle's manual
        and the event's own rules come first.
      </Caution>
      <p className="mt-4">{away}</p>
    </article>
  );
}
