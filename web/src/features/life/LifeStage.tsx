import { Link } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useHand } from "../../lib/hand";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { dateText, decimalsOf, eventsText, hoursText } from "../../lib/text";
import { unitOf } from "../../lib/units";
import { Caution, Failure, Figure, GroupTitle, type State, StateWord, Working } from "../../ui/basics";
import { SteelRule } from "../../ui/SteelRule";
import { Cell, Row, right, Table } from "../../ui/Table";
import { TakeOut } from "../../ui/TakeOut";
import { Why } from "../verdict";
import { Hoses } from "./Hoses";
import { MeasureForm } from "./MeasureForm";
import { inspected, padText } from "./parts";
import { useChooseSchool, useLife, useRemoveMeasurement } from "./queries";
import { SeasonPanel } from "./Season";
import { Shelf } from "./Shelf";
import { WhenFitted } from "./WhenFitted";

type LifeRow = Schemas["LifeRowOut"];
const schoolWords: Record<string, string> = {
  minimum: "at the minimum thickness",
  half: "at half of new: a thin pad stores and insulates less",
  backing: "at the thickness of the backing plate",
};

export function LifeStage() {
  const id = useMachineId();
  const life = useLife(id);
  const choose = useChooseSchool(id);
  const [held, hold] = useHand<string>();
  const { withUnit } = useUnits();
  if (life.error) return <Failure text={problemText(life.error)} retry={() => life.refetch()} />;
  if (!life.data) return <Working>Computing wear on this duty…</Working>;
  const { data } = life;
  return (
    <>
      <SeasonPanel machineId={id} duty_id={data.duty_id} />
      <header className="mt-10 mb-3 border-t border-ink pt-4">
        <h2 className="text-stage font-semibold leading-tight">How long the pads last</h2>
        <p className="condensed mt-0.5 text-muted">
          When each is to be changed, and how sure that is. On {data.duty},{" "}
          {withUnit(data.events_per_month, "someEvents")} a month; set fitted on {dateText(data.fitted_on)}
        </p>
      </header>
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_19rem]">
        <div>
          {data.rows.map((row) => (
            <AxleLife key={row.axle} row={row} />
          ))}
          <label className="mt-4 block">
            <span className="condensed text-muted">Change the pads </span>
            <select
              className="h-9 max-w-full rounded-xs border border-ink bg-paper px-2"
              value={held ?? data.school}
              onChange={(event) =>
                hold(event.target.value, choose.mutateAsync({ school: event.target.value }))
              }
            >
              {data.schools.map((name) => (
                <option key={name} value={name}>
                  {schoolWords[name] ?? name}
                </option>
              ))}
            </select>
            <span className="condensed text-muted">
              {" "}
              It stays with the machine, in Choose and Inspect too.
            </span>
          </label>
          {choose.error && <Failure text={problemText(choose.error)} />}
        </div>
        <aside>
          <MeasureForm machineId={id} odometer_km={data.odometer_km} />
          <Measurements machineId={id} rows={data.measurements} />
        </aside>
      </div>
      <WhenFitted machineId={id} />
      <Shelf machineId={id} />
      <Hoses machineId={id} />
      <Caution>
        Wheels off: on stands, chocked, never under a jack alone. No compressed air on brake dust. A forecast
        is an estimate: look at the pads before every event, change them before it, not at it.
      </Caution>
    </>
  );
}

const stateWords: Record<State, string> = { over: "due", close: "due soon", fine: "fine" };

function AxleLife({ row }: { row: LifeRow }) {
  const units = useUnits();
  const mm = (value: number) => units.figure(value, "thickness", units.system === "metric" ? 1 : 3);
  const worst = Math.max(row.limit_m, row.now_m - row.wear_per_event_m * Math.min(row.events_p90, 10));
  const { state } = row;
  return (
    <section aria-label={`${row.axle} pads`} data-axle={row.axle} className="border-t border-ink py-3">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h3 className="font-semibold">
          {row.axle === "front" ? "Front" : "Rear"} pads, {row.pad}
        </h3>
        <StateWord state={state}>{stateWords[state]}</StateWord>
      </div>
      <SteelRule
        fill={row.now_m / row.new_m}
        notch={row.limit_m / row.new_m}
        state={state}
        ticks={Math.round(row.new_m * 4000)}
        band={[worst / row.new_m, row.now_m / row.new_m]}
      />
      <p className="condensed flex justify-between text-xs text-muted">
        <span>0</span>
        <span>
          now {mm(row.now_m)} · change at {mm(row.limit_m)} · hatched: wear of the next{" "}
          {Math.round(Math.min(row.events_p90, 10))} events · new {mm(row.new_m)} {units.symbol("thickness")}
        </span>
      </p>
      <dl className="mt-2 flex flex-wrap gap-x-8 gap-y-2">
        <Figure
          label="Next change in"
          value={<Why topic="life">{eventsText(row.events)}</Why>}
          unit={row.limited_by === "age" ? "by age" : `(${rangeOfEvents(row)})`}
        />
        <Figure
          label="distance"
          value={row.events >= 99998 ? "–" : units.figure(row.due_km, "distance")}
          unit={units.symbol("distance")}
        />
        <Figure label="time driven on it" value={row.events >= 99998 ? "–" : hoursText(row.due_hours)} />
        <Figure label="date, at this pace" value={dateText(row.due_on)} />
      </dl>
      <p className="mt-2 text-muted">
        {row.measured ? "Computed wear" : "By computed energy only,"}{" "}
        <Why topic={`wear_${row.axle}`}>{units.withUnit(row.computed_per_event_m, "wearDepth")}</Why> an event
        {row.measured
          ? `, corrected × ${row.wear_scale.toFixed(2)} by what was measured.`
          : " (estimate): measure once and the range narrows."}
      </p>
      {row.limits.map((limit, index) => (
        <p key={limit.rule} className="condensed text-xs text-muted">
          {index === 0 ? "Changed at" : "Also, at"} {mm(limit.limit_m)} {units.symbol("thickness")}:{" "}
          {units.say(limit.text)}
          {index === 0 && row.limits.length > 1 ? ", the thickest of these" : ""}
        </p>
      ))}
      {row.limited_by === "age" && (
        <p className="mt-1">
          Limited by age and rust, not by wear: they hardly wear on this duty, and bonding, plates and shims
          are good for about 8 years (estimate). Look for rust and swollen edges at every inspection.
        </p>
      )}
      {row.parts.length > 1 && <Parts row={row} />}
    </section>
  );
}

/** "3.1 to 7 events", without a range where nothing wears. */
function rangeOfEvents(row: LifeRow): string {
  const [low, high] = [eventsText(row.events_p10), eventsText(row.events_p90)];
  return low === high ? low : `${low.replace(/ events?$/, "")} to ${high}`;
}

/** Every pad of the axle: what is left of it and how fast it wears, from all its measurements. */
function Parts({ row }: { row: LifeRow }) {
  const units = useUnits();
  const wear = (metres: number) => units.figure(metres, "reading", units.system === "metric" ? 2 : 4);
  const far = `1000 ${units.symbol("distance")}`;
  const each = 1 / unitOf("distance", units.system).factor;
  const shown = (metres: number) => each * metres * unitOf("reading", units.system).factor;
  const rate = (part: LifeRow["parts"][number], metres: number) =>
    shown(metres).toFixed(decimalsOf(shown(part.wear_per_1000km_high_m - part.wear_per_1000km_low_m)));
  return (
    <Table
      label={`Pads of the ${row.axle} axle`}
      className="mt-2"
      width="max-w-2xl"
      heads={[
        "Pad",
        right(`now, ${units.symbol("reading")}`),
        right(`wear in ${far} (range)`),
        right("in 100 MJ of braking", "max-md:hidden"),
        right("left"),
        right("readings", "max-md:hidden"),
      ]}
    >
      <tbody>
        {row.parts.map((part) => (
          <Row key={part.position}>
            <Cell>{padText(row.axle, part.position)}</Cell>
            <Cell figures>{wear(part.now_m)}</Cell>
            <Cell figures>
              {rate(part, part.wear_per_1000km_m)}{" "}
              <span className="text-muted">
                ({rate(part, part.wear_per_1000km_low_m)}–{rate(part, part.wear_per_1000km_high_m)})
              </span>
            </Cell>
            <Cell figures className="max-md:hidden">
              {wear(part.wear_per_100MJ_m)}
            </Cell>
            <Cell figures>{eventsText(part.events)}</Cell>
            <Cell figures className="max-md:hidden">
              {part.measurements}
            </Cell>
          </Row>
        ))}
      </tbody>
    </Table>
  );
}

function Measurements({ machineId, rows }: { machineId: number; rows: Schemas["MeasurementOut"][] }) {
  const units = useUnits();
  const remove = useRemoveMeasurement(machineId);
  return (
    <section className="mt-6" aria-label="Measurements">
      <GroupTitle>Measured</GroupTitle>
      {rows.length === 0 && <p className="text-muted">Nothing yet: one thickness is enough to start.</p>}
      <ul>
        {inspected(rows).map((group) => (
          <li
            key={group.id}
            className="flex items-baseline justify-between gap-2 border-t border-hairline py-1.5"
          >
            <span>
              <span className="figures font-semibold">
                {units.figure(group.thinnest.thickness_m, "thickness")}
              </span>{" "}
              {units.symbol("thickness")} {padText(group.thinnest.axle, group.thinnest.position)}, thinnest of{" "}
              {group.count}
              <span className="condensed block text-xs text-muted">
                {dateText(group.thinnest.measured_on)},{" "}
                {units.withUnit(group.thinnest.odometer_km, "distance")}
              </span>
            </span>
            <Link
              to={`/m/${machineId}/inspect?sheet=${group.id}`}
              className="condensed inline-flex min-h-6 items-center underline underline-offset-2"
            >
              Its inspection
            </Link>
          </li>
        ))}
        {rows
          .filter((row) => row.inspection_id === null)
          .map((row) => (
            <li
              key={row.id}
              className={`flex items-baseline justify-between gap-2 border-t border-hairline py-1.5 ${row.removed ? "text-muted line-through" : ""}`}
            >
              <span>
                <span className="figures font-semibold">{units.figure(row.thickness_m, "thickness")}</span>{" "}
                {units.symbol("thickness")} {padText(row.axle, row.position)}
                <span className="condensed block text-xs text-muted">
                  {dateText(row.measured_on)}, {units.withUnit(row.odometer_km, "distance")}
                </span>
              </span>
              <TakeOut
                removed={row.removed}
                onClick={() => remove.mutate({ row: row.id, removed: !row.removed })}
              />
            </li>
          ))}
      </ul>
      {remove.error && <Failure text={problemText(remove.error)} />}
    </section>
  );
}
