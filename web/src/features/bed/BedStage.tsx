import { useEffect, useState } from "react";
import { problemText } from "../../api/client";
import { printPage } from "../../lib/print";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { createStore, useStore } from "../../lib/store";
import { dateText } from "../../lib/text";
import { Button, Caution, Failure, GroupTitle, StageTitle, StateWord, Working } from "../../ui/basics";
import { RuleSlider } from "../../ui/RuleSlider";
import { KeptPlans } from "./KeptPlans";
import { MakersRows } from "./MakersRows";
import {
  type BedState,
  type Road,
  useBedded,
  useBedding,
  useBeddingCurve,
  useKeepPlan,
  useKeptPlan,
  usePlans,
} from "./queries";
import { PlanView, Schools } from "./Schools";
import { Worked } from "./Worked";

/** What the road allows, and which school was picked, as it was last set for each machine. */
const roadStore = createStore<Record<number, Road>>({}, "thermaxis.road");
const schoolStore = createStore<Record<number, string>>({}, "thermaxis.school");
const usual: Road = { top_speed_mps: 100 / 3.6, hard_g: 0.6 };

export function BedStage() {
  const id = useMachineId();
  const units = useUnits();
  const plans = usePlans(id).data ?? [];
  const state = useBedded(id);
  const road = useStore(roadStore)[id];
  const last = plans.find((plan) => !plan.removed);
  // The road stays with the plan: what was set last, else what the last plan was kept for.
  const order = road ?? (last ? { top_speed_mps: last.top_speed_mps, hard_g: last.hard_g } : usual);
  const set = (next: Road) => roadStore.set({ ...roadStore.get(), [id]: next });
  const [opened, open] = useState<number | null>(null);
  const kept = useKeptPlan(id, opened);
  // A slider that moves asks for the latest only, one question at a time: the machine computes nothing nobody waits for.
  const [asked, askFor] = useState(order);
  const bedding = useBedding(id, asked);
  const behind = asked.top_speed_mps !== order.top_speed_mps || asked.hard_g !== order.hard_g;
  useEffect(() => {
    if (behind && !bedding.isFetching) askFor(order);
  }, [behind, bedding.isFetching, order]);
  const data = bedding.data;
  const picked = useStore(schoolStore)[id];
  const school = data?.plans.some((plan) => plan.school === picked)
    ? (picked as string)
    : (data?.default ?? "");
  const plan = data?.plans.find((one) => one.school === school);
  const ask = { ...asked, school };
  const curve = useBeddingCurve(id, ask, opened === null && !behind && (plan?.items.length ?? 0) > 0);
  const keep = useKeepPlan(id);
  const pick = (next: string) => {
    open(null);
    schoolStore.set({ ...schoolStore.get(), [id]: next });
  };
  const shown = opened === null ? plan : kept.data?.plan;
  return (
    <>
      <StageTitle
        title={data ? `Bedding in ${data.pad}` : "Bedding in"}
        note={
          opened !== null && kept.data
            ? `As it was kept on ${dateText(kept.data.made_at)}: ${kept.data.label.toLowerCase()}, up to ${units.withUnit(kept.data.top_speed_mps, "speed")} and ${kept.data.hard_g.toFixed(2)} g.`
            : "What to drive so that new pads bite, by every school, computed for this machine without its trailer."
        }
      >
        {shown && (
          <span className="print:hidden">
            <Button onClick={printPage}>Print</Button>
          </span>
        )}
        {opened !== null ? (
          <span className="print:hidden">
            <Button onClick={() => open(null)}>Back to planning</Button>
          </span>
        ) : (
          plan?.refused === null && (
            <span className="print:hidden">
              <Button primary disabled={keep.isPending || behind} onClick={() => keep.mutate(ask)}>
                Keep this plan
              </Button>
            </span>
          )
        )}
      </StageTitle>
      {keep.error && <Failure text={problemText(keep.error)} retry={() => keep.mutate(ask)} />}
      {state.data && <Standing state={state.data} />}
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! print:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_20rem]">
        <section aria-label="The plan" aria-busy={bedding.isFetching || behind} className="min-w-0">
          {bedding.error && <Failure text={problemText(bedding.error)} retry={() => bedding.refetch()} />}
          {bedding.isPending && <Working>Planning every school…</Working>}
          {data && opened === null && (
            <div className={`mb-4 print:hidden ${bedding.isPlaceholderData ? "opacity-50" : ""}`}>
              <Schools plans={data.plans} selected={school} standard={data.default} onSelect={pick} />
            </div>
          )}
          {data && plan && opened === null && (
            <>
              <h2 className="font-semibold">
                {plan.label}
                <span className="condensed font-normal text-muted">
                  {" "}
                  · {plan.what}; for {plan.suits}
                </span>
              </h2>
              <p className="condensed mb-2 text-muted">
                {data.words && <>“{data.words}” · </>}
                {school === data.default
                  ? `suggested: ${units.say(data.reason)}`
                  : `suggested is ${data.plans.find((one) => one.school === data.default)?.label.toLowerCase()}: ${units.say(data.reason)}`}
              </p>
              <PlanView
                plan={plan}
                curve={curve.data}
                failed={curve.error}
                ask={ask}
                stale={bedding.isPlaceholderData}
              />
            </>
          )}
          {opened !== null && kept.error && (
            <Failure text={problemText(kept.error)} retry={() => kept.refetch()} />
          )}
          {opened !== null && kept.data && (
            <PlanView
              plan={kept.data.plan}
              curve={kept.data.curve}
              failed={null}
              ask={{
                school: kept.data.school,
                top_speed_mps: kept.data.top_speed_mps,
                hard_g: kept.data.hard_g,
              }}
              stale={false}
            />
          )}
        </section>
        <aside className="print:hidden">
          <GroupTitle>What the road allows</GroupTitle>
          <RuleSlider
            label="Fastest a braking begins"
            value={order.top_speed_mps * 3.6}
            min={40}
            max={200}
            step={5}
            shown={units.withUnit(order.top_speed_mps, "speed")}
            onChange={(kmh) => {
              open(null);
              set({ ...order, top_speed_mps: kmh / 3.6 });
            }}
          />
          <RuleSlider
            label="How hard at most"
            value={order.hard_g}
            min={0.2}
            max={1}
            step={0.05}
            shown={`${order.hard_g.toFixed(2)} g`}
            onChange={(hard_g) => {
              open(null);
              set({ ...order, hard_g });
            }}
          />
          {data && (
            <p className="condensed mt-1 text-muted">
              This machine allows {data.allowed_g.toFixed(2)} g and{" "}
              {units.withUnit(data.allowed_mps, "speed")}.
            </p>
          )}
          {data && <MakersRows key={`${data.pad_id}.${data.makers.version}`} machineId={id} schools={data} />}
          <KeptPlans machineId={id} opened={opened} onOpen={open} />
        </aside>
      </div>
      {state.data && <Worked machineId={id} state={state.data} />}
      <Caution>
        A closed or empty road, within the law. The first brakings are weak: leave room. Do not stop fully and
        do not set the parking brake while the pads are hot. The pad maker's own instructions come first.
      </Caution>
    </>
  );
}

const stateMarks = { new: "close", bedding: "close", bedded: "fine", unbedded: "over" } as const;

/** How far both axles are, and what another compound has left on their rings. */
function Standing({ state }: { state: BedState }) {
  const { say } = useUnits();
  // The same film on both axles is said once.
  const films: { text: string; same: boolean; axles: string }[] = [];
  for (const film of state.films) {
    const text = say(film.text);
    const alike = films.find((one) => one.text === text);
    if (alike) alike.axles = "Front and rear";
    else films.push({ text, same: film.same, axles: film.axle === "front" ? "Front" : "Rear" });
  }
  return (
    <div className="mb-4 border-y border-hairline py-2">
      <ul className="flex flex-wrap gap-x-8 gap-y-1">
        {state.axles.map((axle) => (
          <li key={axle.axle} data-bedded={axle.axle} data-bed-state={axle.state}>
            <span className="font-semibold">{axle.axle === "front" ? "Front" : "Rear"}</span>{" "}
            <span className="condensed text-muted">
              {axle.pads} on {axle.rotors}:
            </span>{" "}
            <StateWord state={stateMarks[axle.state]}>{say(axle.why)}</StateWord>
          </li>
        ))}
      </ul>
      {films.map(({ text, same, axles }) => (
        <div key={axles} className="mt-2 max-w-prose" data-film={axles}>
          <StateWord state={same ? "fine" : "close"}>
            {axles} rings: {text}
          </StateWord>
          {!same && (
            <ul className="condensed">
              {state.film_schools.map((way) => (
                <li key={way.option}>
                  {way.default && "● "}
                  {way.label}: <span className="text-muted">{way.reason}</span>
                </li>
              ))}
            </ul>
          )}
        </div>
      ))}
    </div>
  );
}
