import { problemText, type Schemas } from "../../api/client";
import { BeddingCurve } from "../../charts/BeddingCurve";
import { SchoolLadder } from "../../charts/SchoolLadder";
import { useUnits } from "../../lib/settings";
import { clockText } from "../../lib/text";
import { Failure, Figure, StateWord } from "../../ui/basics";
import { Scroll } from "../../ui/Scroll";
import { Cell, Row, right, Table } from "../../ui/Table";
import { Why } from "../verdict";
import type { Item, Plan } from "./queries";

type Props = { plans: Plan[]; selected: string; standard: string; onSelect: (school: string) => void };

export const minutesText = (seconds: number) =>
  seconds >= 5400 ? `${(seconds / 3600).toFixed(1)} h` : `${Math.round(seconds / 60)} min`;

/** What a plan is worth in a word: reached in front and behind, in front, or not. */
export function PlanState({ plan }: { plan: Plan }) {
  if (plan.refused) return <StateWord state="over">not here</StateWord>;
  if (!plan.kept) return <StateWord state="over">leaves a limit</StateWord>;
  if (!plan.reached) return <StateWord state="over">falls short</StateWord>;
  return plan.rear_reached ? (
    <StateWord state="fine">reached</StateWord>
  ) : (
    <StateWord state="close">front reached</StateWord>
  );
}

/** Every school on one axis of temperature: which reaches the window, in what time, and who needs a closed course. */
export function Schools({ plans, selected, standard, onSelect }: Props) {
  const units = useUnits();
  return (
    <Scroll label="Schools side by side">
      <SchoolLadder
        system={units.system}
        selected={selected}
        onSelect={onSelect}
        columns={plans.map((plan) => ({
          key: plan.school,
          label: plan.label,
          front: plan.items.map((item) => item.front_C ?? 0),
          rear: plan.items.map((item) => item.rear_C ?? 0),
          peak_front_C: plan.peak_front_C,
          peak_rear_C: plan.peak_rear_C,
          low_C: plan.front.low_C,
          high_C: plan.front.high_C,
          shut: plan.refused !== null && plan.items.length === 0,
          foot: (
            <>
              <PlanState plan={plan} />
              {plan.items.length > 0 && (
                <span className="block">
                  {minutesText(plan.duration_s)}, {units.withUnit(plan.way_m / 1000, "distance")}
                </span>
              )}
              {plan.closed && <span className="block text-close">◐ closed course</span>}
              {plan.school === standard && <span className="block">● suggested</span>}
            </>
          ),
        }))}
      />
    </Scroll>
  );
}

type PlanProps = {
  plan: Plan;
  curve: Schemas["CurveOut"] | undefined;
  failed: Error | null;
  ask: Schemas["BeddingAsk"];
  stale: boolean;
};

/** One school in full: what it comes to, its curve, its brakings, the limits it keeps. */
export function PlanView({ plan, curve, failed, ask, stale }: PlanProps) {
  const units = useUnits();
  if (plan.refused && plan.items.length === 0)
    return (
      <p data-plan-text>
        <StateWord state="over">{units.say(plan.refused)}</StateWord>
      </p>
    );
  const state = plan.kept && plan.reached ? (plan.rear_reached ? "fine" : "close") : "over";
  return (
    <div className={stale ? "opacity-50" : ""}>
      <p className="mb-1 max-w-prose" data-plan-text data-kept={plan.kept}>
        <StateWord state={state}>{units.say(plan.refused ?? plan.text)}</StateWord>
      </p>
      <ul className="mb-3 max-w-prose">
        {[plan.needs, plan.rear_text, plan.closed, ...plan.remarks].map(
          (said) => said && <li key={said.template}>{units.say(said)}</li>,
        )}
      </ul>
      <div className="grid gap-x-6 gap-y-3 grid-cols-[repeat(auto-fit,minmax(min(100%,19rem),1fr))]">
        <div>
          {failed && <Failure text={problemText(failed)} />}
          {curve && (
            <BeddingCurve
              t_s={curve.t_s}
              front={curve.front_surface_C}
              rear={curve.rear_surface_C}
              low={plan.front.low_C}
              high={plan.front.high_C}
              system={units.system}
            />
          )}
          <dl className="mt-2 flex flex-wrap gap-6">
            <Figure
              label="Hottest face, front"
              value={
                <Why topic="peak_front" bedding={ask}>
                  {units.figure(plan.peak_front_C, "temperature")}
                </Why>
              }
              unit={units.symbol("temperature")}
            />
            <Figure
              label="rear"
              value={
                <Why topic="peak_rear" bedding={ask}>
                  {units.figure(plan.peak_rear_C, "temperature")}
                </Why>
              }
              unit={units.symbol("temperature")}
            />
            <Figure label="Takes" value={minutesText(plan.duration_s)} />
            <Figure
              label="Over"
              value={units.figure(plan.way_m / 1000, "distance")}
              unit={units.symbol("distance")}
            />
            <Figure
              label="Cool-down drive"
              value={clockText(plan.cool_down_s)}
              unit={`min:s, to ${units.withUnit(100, "temperature")}`}
            />
          </dl>
          <Limits plan={plan} />
        </div>
        <Brakings plan={plan} ask={ask} />
      </div>
    </div>
  );
}

function Limits({ plan }: { plan: Plan }) {
  const units = useUnits();
  if (plan.limits.length === 0) return null;
  return (
    <section aria-label="Limits" className="mt-3">
      <h3 className="font-semibold">What it keeps</h3>
      <ul className="condensed">
        {plan.limits.map((limit) => (
          <li key={limit.name} data-limit={limit.name} data-kept={limit.kept}>
            <StateWord state={limit.kept ? "fine" : "over"}>{limit.kept ? "kept" : "left"}</StateWord>{" "}
            {units.say(limit.text)}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Items that read alike, one after the other. */
export function alike(items: Item[]): Item[][] {
  const found: Item[][] = [];
  for (const item of items) {
    const group = found[found.length - 1];
    const first = group?.[0];
    const same =
      first &&
      first.phase === item.phase &&
      first.stops === item.stops &&
      first.from_mps === item.from_mps &&
      first.to_mps === item.to_mps &&
      first.decel_g === item.decel_g;
    if (group && same) group.push(item);
    else found.push([item]);
  }
  return found;
}

/** The words for what an item is. */
export const phaseText: Record<string, string> = {
  easy: "easy driving",
  moderate: "moderate",
  hard: "hard",
  fade: "to first fade",
  half: "once more, at half",
  lap: "laps",
  leaflet: "from the leaflet",
};

/** The brakings by kind: what is the same for all of them stands once, above what each one reaches. */
function Brakings({ plan, ask }: { plan: Plan; ask: Schemas["BeddingAsk"] }) {
  const units = useUnits();
  const last = plan.items[plan.items.length - 1];
  return (
    <Table
      caption="Brakings of the plan"
      className="self-start"
      heads={[
        "No.",
        right(`front ring, ${units.symbol("temperature")}`),
        right(`rear ring, ${units.symbol("temperature")}`),
      ]}
    >
      {alike(plan.items).map((items) => {
        const first = items[0] as Item;
        const end = items[items.length - 1] as Item;
        return (
          <tbody key={first.stop}>
            <Row>
              <th colSpan={3} className="py-1 text-left font-normal">
                <span className="font-semibold">
                  {first.stops > 1 ? "" : `${items.length} `}
                  {phaseText[first.phase] ?? first.phase}
                </span>
                {first.stops > 1 && `, ${first.stops} brakings, at most`} from{" "}
                {units.figure(first.from_mps, "speed")} to {units.withUnit(first.to_mps, "speed")} at{" "}
                {first.decel_g.toFixed(2)} g ({first.how}), then {first.then_s.toFixed(0)} s at{" "}
                {units.withUnit(first.then_mps, "speed")}
                {end !== last &&
                  end.then_s > first.then_s &&
                  `, after the last ${minutesText(end.then_s)} to cool`}
              </th>
            </Row>
            {items.map((item) => (
              <Row key={item.stop}>
                <Cell tight className="figures">
                  {item.stop}
                </Cell>
                <Cell tight figures>
                  <Why topic="stop_front" bedding={ask} stop={item.stop}>
                    {units.figure(item.front_C ?? 0, "temperature")}
                  </Why>
                </Cell>
                <Cell tight figures>
                  <Why topic="stop_rear" bedding={ask} stop={item.stop}>
                    {units.figure(item.rear_C ?? 0, "temperature")}
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
