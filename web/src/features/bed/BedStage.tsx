import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { BeddingCurve } from "../../charts/BeddingCurve";
import { useHand } from "../../lib/hand";
import { printPage } from "../../lib/print";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { createStore, useStore } from "../../lib/store";
import { clockText, dateText } from "../../lib/text";
import {
  Button,
  Caution,
  Failure,
  Figure,
  GroupTitle,
  LinkButton,
  StageTitle,
  StateWord,
  Working,
} from "../../ui/basics";
import { RuleSlider } from "../../ui/RuleSlider";
import { Cell, Row, right, Table } from "../../ui/Table";
import { Why } from "../verdict";
import { useBedding, useKeepPlan, useKeptPlan, useMarkDone, usePlans, useRemovePlan } from "./queries";

type Order = Schemas["BeddingAsk"];

/** What the road allows, as it was last set for each machine. */
const roadStore = createStore<Record<number, Order>>({}, "thermaxis.road");
const usual: Order = { top_speed_mps: 100 / 3.6, hard_g: 0.6 };

export function BedStage() {
  const id = useMachineId();
  const units = useUnits();
  const plans = usePlans(id).data ?? [];
  const road = useStore(roadStore)[id];
  const last = plans.find((plan) => !plan.removed);
  // The road stays with the plan: what was set last, else what the last plan was kept for.
  const order = road ?? (last ? { top_speed_mps: last.top_speed_mps, hard_g: last.hard_g } : usual);
  const setOrder = (next: Order) => roadStore.set({ ...roadStore.get(), [id]: next });
  const [moving, move] = useState<Order | null>(null);
  const shown = moving ?? order;
  const [opened, open] = useState<number | null>(null);
  const kept = useKeptPlan(id, opened);
  const plan = useBedding(id, order);
  const keep = useKeepPlan(id);
  const drawn = opened === null ? plan : kept;
  const data = opened === null ? plan.data : kept.data?.plan;
  const drawnOrder = kept.data && opened !== null ? kept.data : order;
  const commit = (next: Order) => {
    move(null);
    open(null);
    setOrder(next);
  };
  return (
    <>
      <StageTitle
        title={data ? `Bedding in ${data.pad}` : "Bedding in"}
        note={
          opened !== null && kept.data
            ? `As it was kept on ${dateText(kept.data.made_at)}: from ${units.withUnit(kept.data.top_speed_mps, "speed")} at ${kept.data.hard_g.toFixed(2)} g.`
            : "What to drive so that new pads bite: moderate stops first, then hard ones, never to a standstill, computed for this machine."
        }
      >
        {data && (
          <span className="print:hidden">
            <Button onClick={printPage}>Print</Button>
          </span>
        )}
        {opened !== null ? (
          <span className="print:hidden">
            <Button onClick={() => open(null)}>Back to planning</Button>
          </span>
        ) : (
          plan.data?.reached && (
            <span className="print:hidden">
              <Button primary disabled={keep.isPending} onClick={() => keep.mutate(order)}>
                Keep this plan
              </Button>
            </span>
          )
        )}
      </StageTitle>
      {keep.error && <Failure text={problemText(keep.error)} retry={() => keep.mutate(order)} />}
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! print:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_20rem]">
        <section aria-label="The plan" aria-busy={drawn.isFetching} className="min-w-0">
          {drawn.error && <Failure text={problemText(drawn.error)} retry={() => drawn.refetch()} />}
          {drawn.isPending && <Working>Finding the shortest series that reaches the window…</Working>}
          {data && <Plan plan={data} order={drawnOrder} stale={opened === null && plan.isPlaceholderData} />}
        </section>
        <aside className="print:hidden">
          <GroupTitle>What the road allows</GroupTitle>
          <RuleSlider
            label="Top speed of the hard stops"
            value={shown.top_speed_mps * 3.6}
            min={40}
            max={200}
            step={5}
            shown={units.withUnit(shown.top_speed_mps, "speed")}
            onChange={(kmh) => move({ ...shown, top_speed_mps: kmh / 3.6 })}
            onCommit={(kmh) => commit({ ...shown, top_speed_mps: kmh / 3.6 })}
          />
          <RuleSlider
            label="How hard"
            value={shown.hard_g}
            min={0.3}
            max={1}
            step={0.05}
            shown={`${shown.hard_g.toFixed(2)} g`}
            onChange={(hard_g) => move({ ...shown, hard_g })}
            onCommit={(hard_g) => commit({ ...shown, hard_g })}
          />
          <Kept machineId={id} opened={opened} onOpen={open} />
        </aside>
      </div>
      <Caution>
        A closed or empty road, within the law. The first stops are weak: leave room. Do not stop fully and do
        not set the parking brake while the pads are hot. The pad maker's own instructions come first.
      </Caution>
    </>
  );
}

type PlanProps = { plan: Schemas["BeddingOut"]; order: Schemas["BeddingAsk"]; stale: boolean };

function Plan({ plan, order, stale }: PlanProps) {
  const units = useUnits();
  return (
    <div className={stale ? "opacity-50" : ""}>
      <p className="mb-2 max-w-prose" data-plan-text>
        <StateWord state={plan.reached ? (plan.rear_reached ? "fine" : "close") : "over"}>
          {units.say(plan.text)}
        </StateWord>
      </p>
      <div className="grid gap-x-6 gap-y-3 grid-cols-[repeat(auto-fit,minmax(min(100%,17rem),1fr))]">
        <div>
          <BeddingCurve
            t_s={plan.curve.t_s}
            front={plan.curve.front_surface_C}
            rear={plan.curve.rear_surface_C}
            low={plan.window_low_C}
            high={plan.window_high_C}
            system={units.system}
          />
          <dl className="mt-2 flex flex-wrap gap-6">
            <Figure
              label="Hottest face, front"
              value={
                <Why topic="peak_front" bedding={order}>
                  {units.figure(plan.peak_front_C, "temperature")}
                </Why>
              }
              unit={units.symbol("temperature")}
            />
            <Figure
              label="rear"
              value={
                <Why topic="peak_rear" bedding={order}>
                  {units.figure(plan.peak_rear_C, "temperature")}
                </Why>
              }
              unit={units.symbol("temperature")}
            />
            <Figure label="Between stops" value={plan.gap_s.toFixed(0)} unit="s" />
            <Figure
              label="Cool-down drive"
              value={clockText(plan.cool_down_s)}
              unit={`min:s, to ${units.withUnit(100, "temperature")}`}
            />
          </dl>
        </div>
        <StopTable plan={plan} order={order} />
      </div>
    </div>
  );
}

/** The stops by phase: what is the same for all of them stands once, above what each one reaches. */
function StopTable({ plan, order }: Omit<PlanProps, "stale">) {
  const units = useUnits();
  const phases = [...new Set(plan.stops.map((stop) => stop.phase))];
  const last = plan.stops[plan.stops.length - 1];
  return (
    <Table
      caption="Stops of the plan"
      className="self-start"
      heads={[
        "Stop",
        right(`front ring, ${units.symbol("temperature")}`),
        right(`rear ring, ${units.symbol("temperature")}`),
      ]}
    >
      {phases.map((phase) => {
        const stops = plan.stops.filter((stop) => stop.phase === phase);
        const first = stops[0];
        if (!first) return null;
        return (
          <tbody key={phase}>
            <Row>
              <th colSpan={3} className="py-1 text-left font-normal">
                <span className="font-semibold">
                  {stops.length} {phase}
                </span>{" "}
                from {units.figure(first.from_mps, "speed")} to {units.withUnit(first.to_mps, "speed")} at{" "}
                {first.decel_g.toFixed(2)} g, then {plan.gap_s.toFixed(0)} s at{" "}
                {units.withUnit(first.then_mps, "speed")}
              </th>
            </Row>
            {stops.map((stop) => (
              <Row key={stop.number}>
                <Cell tight className="figures">
                  {stop.number}
                </Cell>
                <Cell tight figures>
                  <Why topic="stop_front" bedding={order} stop={stop.number}>
                    {units.figure(stop.front_C, "temperature")}
                  </Why>
                </Cell>
                <Cell tight figures>
                  <Why topic="stop_rear" bedding={order} stop={stop.number}>
                    {units.figure(stop.rear_C, "temperature")}
                  </Why>
                </Cell>
              </Row>
            ))}
          </tbody>
        );
      })}
      {last && (
        <tfoot>
          <Row>
            <Cell colSpan={3}>
              <span className="font-semibold">Cool-down</span>: drive on for {clockText(plan.cool_down_s)} min
              at {units.withUnit(last.then_mps, "speed")} without braking, then park without the parking
              brake.
            </Cell>
          </Row>
        </tfoot>
      )}
    </Table>
  );
}

type KeptProps = { machineId: number; opened: number | null; onOpen: (plan: number | null) => void };

function Kept({ machineId, opened, onOpen }: KeptProps) {
  const units = useUnits();
  const plans = usePlans(machineId);
  const mark = useMarkDone(machineId);
  const remove = useRemovePlan(machineId);
  const [ticked, tick] = useHand<{ plan: number; done: boolean }>();
  const rows = (plans.data ?? []).filter((plan) => !plan.removed);
  const gone = plans.data?.find((plan) => plan.removed && plan.id === remove.variables?.plan);
  return (
    <section className="mt-6" aria-label="Kept plans">
      <GroupTitle>Kept for this set</GroupTitle>
      {plans.data && rows.length === 0 && (
        <p className="text-muted">Nothing yet. Keep the plan, drive it, and tick it here.</p>
      )}
      <ul>
        {rows.map((plan) => (
          <li key={plan.id} className="border-t border-hairline py-2" data-plan={plan.id}>
            <label className="flex gap-2">
              <input
                type="checkbox"
                className="mt-0.5 size-4 accent-ink"
                checked={ticked?.plan === plan.id ? ticked.done : plan.done_on !== null}
                onChange={(event) => {
                  const now = { plan: plan.id, done: event.target.checked };
                  tick(now, mark.mutateAsync(now));
                }}
              />
              <span>
                {plan.stops} stops from {units.withUnit(plan.top_speed_mps, "speed")},{" "}
                {plan.hard_g.toFixed(2)} g
                <span className="condensed block text-xs text-muted">
                  {plan.done_on
                    ? `driven on ${dateText(plan.done_on)}`
                    : `kept on ${dateText(plan.made_at)}, not driven yet`}
                </span>
              </span>
            </label>
            <p className="flex gap-4 pl-6">
              <button
                type="button"
                className="min-h-6 underline underline-offset-2"
                aria-pressed={opened === plan.id}
                onClick={() => onOpen(opened === plan.id ? null : plan.id)}
              >
                {opened === plan.id ? "Close" : "Open"}
              </button>
              <button
                type="button"
                className="min-h-6 underline underline-offset-2"
                onClick={() => {
                  if (opened === plan.id) onOpen(null);
                  remove.mutate({ plan: plan.id, removed: true });
                }}
              >
                Take out
              </button>
            </p>
          </li>
        ))}
      </ul>
      {rows.some((plan) => plan.done_on) && (
        <p className="mt-2">
          <LinkButton to={`/m/${machineId}/life`}>See when the pads are due</LinkButton>
        </p>
      )}
      {gone && (
        <p className="mt-1 flex items-center gap-3">
          The plan is out of the list.
          <Button onClick={() => remove.mutate({ plan: gone.id, removed: false })}>Undo</Button>
        </p>
      )}
      {(mark.error || remove.error) && <Failure text={problemText(mark.error ?? remove.error)} />}
    </section>
  );
}
