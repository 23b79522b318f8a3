import {
  addDays,
  addMonths,
  addWeeks,
  eachDayOfInterval,
  endOfMonth,
  endOfWeek,
  formatISO,
  isSameMonth,
  startOfMonth,
  startOfWeek,
} from "date-fns";
import { useState } from "react";
import { Link } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { capital, dateText } from "../../lib/text";
import { Button, Failure, Figure, GroupTitle, StageTitle, StateWord, Working } from "../../ui/basics";
import { OrderForm, Orders } from "../orders";
import { useOrders } from "../orders/queries";
import { Owners } from "./Owners";
import { usePlanner } from "./queries";

type Due = Schemas["DueOut"];
type Planner = Schemas["PlannerOut"];
type Span = "week" | "month";

const iso = (day: Date) => formatISO(day, { representation: "date" });
const MONDAY = { weekStartsOn: 1 } as const;

/** Where a thing that is due is done. */
const placeOf = (due: Due) => (due.machine_id === null ? "/plan" : `/m/${due.machine_id}/${due.stage}`);

function daysOf(span: Span, day: Date): Date[] {
  const start = span === "week" ? day : startOfMonth(day);
  const end = span === "week" ? day : endOfMonth(day);
  return eachDayOfInterval({ start: startOfWeek(start, MONDAY), end: endOfWeek(end, MONDAY) });
}

/** What the workshop has to do: due next over all machines, its week or month, its order list, its owners. */
export function PlanPage() {
  const [span, setSpan] = useState<Span>("week");
  const [day, setDay] = useState(() => new Date());
  const days = daysOf(span, day);
  const first = days[0] ?? day;
  const last = days.at(-1) ?? day;
  const found = usePlanner(iso(first), iso(last));
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return <Working>Looking at every machine…</Working>;
  const { data } = found;
  const move = (steps: number) => setDay(span === "week" ? addWeeks(day, steps) : addMonths(day, steps));
  return (
    <>
      <StageTitle title="The workshop's plan" note="What is due next, over all machines, parts and events." />
      <dl className="mb-4 flex flex-wrap gap-x-10 gap-y-2 border-y border-hairline py-3">
        <Figure label="due within 14 days" value={data.due_soon} />
        <Figure label="open jobs" value={data.open_jobs} />
        <Figure label="to order" value={data.to_order} />
        <Figure label="parts on their way" value={data.parts_waiting} />
      </dl>
      <div className="grid gap-x-8 gap-y-6 wide:grid-cols-[minmax(0,1fr)_22rem]">
        <DueList data={data} />
        <OrderList currency={data.currency} />
      </div>
      <section aria-label="Calendar" className="mt-8">
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <h2 className="mr-2 font-semibold">
            {span === "week"
              ? `${dateText(iso(first))} to ${dateText(iso(last))}`
              : day.toLocaleDateString(undefined, { month: "long", year: "numeric" })}
          </h2>
          <Button
            small
            aria-pressed={span === "week"}
            primary={span === "week"}
            onClick={() => setSpan("week")}
          >
            Week
          </Button>
          <Button
            small
            aria-pressed={span === "month"}
            primary={span === "month"}
            onClick={() => setSpan("month")}
          >
            Month
          </Button>
          <Button small onClick={() => move(-1)}>
            Back
          </Button>
          <Button small onClick={() => setDay(new Date())}>
            Today
          </Button>
          <Button small onClick={() => move(1)}>
            On
          </Button>
        </div>
        <Calendar days={days} span={span} month={day} data={data} />
      </section>
      <Owners />
    </>
  );
}

function DueList({ data }: { data: Planner }) {
  const units = useUnits();
  const [all, setAll] = useState(false);
  const shown = all ? data.due : data.due.slice(0, 14);
  return (
    <section aria-label="Due next">
      <GroupTitle>Due next</GroupTitle>
      {data.due.length === 0 && <p className="text-muted">Nothing is due.</p>}
      <ul className="border-t border-ink">
        {shown.map((due) => (
          <li
            key={`${due.kind}${due.machine_id}${due.on}${units.say(due.text)}`}
            data-due={due.kind}
            className="grid items-baseline gap-x-4 border-b border-hairline py-1.5 sm:grid-cols-[8.5rem_minmax(0,1fr)_auto]"
          >
            <span className={`figures ${due.on < data.today ? "text-over" : ""}`}>{shortDate(due.on)}</span>
            <span>
              <StateWord state={due.state}>{capital(units.say(due.text))}</StateWord>
              {due.machine && <span className="condensed block text-muted">{due.machine}</span>}
            </span>
            <Link
              className="condensed inline-flex min-h-6 items-center underline underline-offset-2 bay:min-h-11"
              to={placeOf(due)}
            >
              Go there
            </Link>
          </li>
        ))}
      </ul>
      {data.due.length > shown.length && (
        <Button small className="mt-2" onClick={() => setAll(true)}>
          All {data.due.length}
        </Button>
      )}
    </section>
  );
}

const short = new Intl.DateTimeFormat(undefined, { day: "numeric", month: "short", year: "numeric" });
const shortDate = (day: string) => short.format(new Date(`${day}T12:00`));

function OrderList({ currency }: { currency: string }) {
  const orders = useOrders();
  const [adding, setAdding] = useState(false);
  if (orders.error) return <Failure text={problemText(orders.error)} retry={() => orders.refetch()} />;
  const rows = orders.data ?? [];
  const open = rows.filter((order) => !order.arrived_on);
  const suppliers = [...new Set(open.map((order) => order.supplier))].sort();
  return (
    <section aria-label="Order list">
      <GroupTitle>Order list</GroupTitle>
      {open.length === 0 && <p className="text-muted">Nothing to order.</p>}
      {suppliers.map((supplier) => (
        <div key={supplier} className="mb-3">
          <p className="condensed text-muted">{supplier || "from whom is not said"}</p>
          <Orders orders={open.filter((order) => order.supplier === supplier)} currency={currency} />
        </div>
      ))}
      {rows.length > open.length && (
        <details>
          <summary className="cursor-pointer">Has come ({rows.length - open.length})</summary>
          <Orders orders={rows.filter((order) => order.arrived_on)} currency={currency} />
        </details>
      )}
      {adding ? (
        <OrderForm currency={currency} onDone={() => setAdding(false)} />
      ) : (
        <Button small className="mt-2" onClick={() => setAdding(true)}>
          Put something on the list
        </Button>
      )}
    </section>
  );
}

type CalendarProps = { days: Date[]; span: Span; month: Date; data: Planner };

function Calendar({ days, span, month, data }: CalendarProps) {
  const units = useUnits();
  const today = data.today;
  const names = eachDayOfInterval({ start: days[0] ?? month, end: addDays(days[0] ?? month, 6) });
  const name = new Intl.DateTimeFormat(undefined, { weekday: "short" });
  return (
    <div className="grid grid-cols-1 border-t border-l border-hairline sm:grid-cols-7" data-calendar={span}>
      {names.map((day) => (
        <div
          key={name.format(day)}
          className="condensed hidden border-r border-b border-hairline px-1.5 text-xs text-muted sm:block"
        >
          {name.format(day)}
        </div>
      ))}
      {days.map((day) => {
        const key = iso(day);
        const due = data.due.filter((one) => one.on === key);
        const over = data.over.filter((one) => one.on === key);
        const empty = due.length + over.length === 0;
        return (
          <div
            key={key}
            data-day={key}
            className={`border-r border-b border-hairline px-1.5 py-1 ${span === "week" ? "sm:min-h-36" : "sm:min-h-20"} ${key === today ? "bg-paper" : ""} ${empty ? "max-sm:hidden" : ""} ${span === "month" && !isSameMonth(day, month) ? "opacity-55" : ""}`}
          >
            <p className={`figures text-xs ${key === today ? "font-semibold" : "text-muted"}`}>
              <span className="sm:hidden">{name.format(day)} </span>
              {day.getDate()}
              {key === today && " today"}
            </p>
            {due.map((one) => (
              <Link
                key={`${one.kind}${one.machine_id}${units.say(one.text)}`}
                to={placeOf(one)}
                className="condensed mt-0.5 block text-xs leading-tight hover:underline"
              >
                <StateWord state={one.state}>{capital(units.say(one.text))}</StateWord>
                <span className="block text-muted">{one.machine}</span>
              </Link>
            ))}
            {over.map((one) => (
              <p key={one.name + one.machine} className="condensed mt-0.5 text-xs leading-tight text-muted">
                {one.name}, {one.machine}: {one.driven ? "driven" : "left out"}
              </p>
            ))}
          </div>
        );
      })}
    </div>
  );
}
