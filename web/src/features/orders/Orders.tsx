import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { dateText, todayIso } from "../../lib/text";
import { Button, Failure, StateWord } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { Gone } from "../../ui/TakeOut";
import { useRemoveOrder, useSaveOrder, useTickOrder } from "./queries";

type Order = Schemas["OrderOut"];

const kinds = [
  ["pads", "pads"],
  ["rotors", "rotors"],
  ["fluid", "fluid"],
  ["other", "something else"],
] as const;

/** How far an order is, in a word. */
export function orderState(order: Order, today: string): ["fine" | "close" | "over", string] {
  if (order.arrived_on) return ["fine", order.on_shelf ? "on the shelf" : "has come"];
  if (order.ordered_on) return ["fine", "ordered"];
  if (order.order_by && order.order_by < today) return ["over", "late to order"];
  return ["close", "to order"];
}

/** Lines of the order list, each ticked as ordered and as come; one that has come lies on the shelf. */
export function Orders({ orders, currency }: { orders: Order[]; currency: string }) {
  const remove = useRemoveOrder();
  const [gone, setGone] = useState<Order | null>(null);
  return (
    <>
      {gone && (
        <Gone
          name={gone.name}
          from="off the list"
          onUndo={() => remove.mutate({ row: gone.id, removed: false }, { onSuccess: () => setGone(null) })}
        />
      )}
      <ul className="border-t border-ink">
        {orders.map((order) => (
          <OrderRow
            key={order.id}
            order={order}
            currency={currency}
            onRemove={() =>
              remove.mutate({ row: order.id, removed: true }, { onSuccess: () => setGone(order) })
            }
          />
        ))}
      </ul>
      {remove.error && <Failure text={problemText(remove.error)} />}
    </>
  );
}

function OrderRow({ order, currency, onRemove }: { order: Order; currency: string; onRemove: () => void }) {
  const tick = useTickOrder();
  const [open, setOpen] = useState(false);
  const today = todayIso();
  const [state, word] = orderState(order, today);
  const about = [
    order.machine,
    order.axle && `${order.axle} axle`,
    order.event && `for ${order.event}`,
    order.supplier,
    order.price !== null && `${currency}${(order.price * order.quantity).toFixed(2)}`,
  ].filter(Boolean);
  return (
    <li data-order={order.id} className="border-b border-hairline py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
        <span className="font-semibold">
          {order.quantity > 1 && `${order.quantity} × `}
          {order.name}
        </span>
        <StateWord state={state}>
          {word}
          {!order.arrived_on && order.order_by && `, by ${dateText(order.order_by)}`}
        </StateWord>
      </div>
      <p className="condensed text-muted">{about.join(" · ")}</p>
      {order.note && <p className="condensed text-muted">{order.note}</p>}
      <div className="mt-1 flex flex-wrap gap-2">
        {!order.ordered_on && (
          <Button
            small
            primary
            disabled={tick.isPending}
            onClick={() => tick.mutate({ id: order.id, ordered_on: today, arrived_on: null })}
          >
            Ordered
          </Button>
        )}
        {!order.arrived_on && (
          <Button
            small
            primary={order.ordered_on !== null}
            disabled={tick.isPending}
            onClick={() => tick.mutate({ id: order.id, ordered_on: order.ordered_on, arrived_on: today })}
          >
            Has come
          </Button>
        )}
        {(order.ordered_on || order.arrived_on) && (
          <Button
            small
            disabled={tick.isPending}
            onClick={() =>
              tick.mutate({
                id: order.id,
                ordered_on: order.arrived_on ? order.ordered_on : null,
                arrived_on: null,
              })
            }
          >
            {order.arrived_on ? "Has not come" : "Not ordered yet"}
          </Button>
        )}
        {!order.arrived_on && (
          <>
            <Button small onClick={() => setOpen(!open)}>
              {open ? "Close" : "Change"}
            </Button>
            <Button small onClick={onRemove}>
              Take off the list
            </Button>
          </>
        )}
      </div>
      {tick.error && <Failure text={problemText(tick.error)} />}
      {open && <OrderForm order={order} currency={currency} onDone={() => setOpen(false)} />}
    </li>
  );
}

const blank: Schemas["OrderAsk"] = {
  name: "",
  kind: "other",
  machine_id: null,
  event_id: null,
  axle: null,
  variant_id: null,
  rotor_id: null,
  supplier: "",
  quantity: 1,
  price: null,
  lead_days: null,
  order_by: null,
  note: "",
  version: 0,
};

type FormProps = { order?: Order; draft?: Schemas["OrderAsk"]; currency: string; onDone: () => void };

/** A line of the order list: written down, or over. */
export function OrderForm({ order, draft, currency, onDone }: FormProps) {
  const { system } = useUnits();
  const save = useSaveOrder();
  const [body, setBody] = useState<Schemas["OrderAsk"]>(() => {
    if (!order) return { ...blank, ...draft };
    const {
      machine: _m,
      event: _e,
      ordered_on: _o,
      arrived_on: _a,
      on_shelf: _s,
      removed: _r,
      id: _i,
      ...rest
    } = order;
    return rest;
  });
  const set = (part: Partial<Schemas["OrderAsk"]>) => setBody({ ...body, ...part });
  return (
    <Form
      label={order ? "Change this order" : "Write down an order"}
      begin
      className="mt-2 grid max-w-2xl grid-cols-2 gap-3 border border-hairline p-3 md:grid-cols-3"
      refused={useRefused(save.error)}
      onSend={() => save.mutate({ id: order?.id ?? null, body }, { onSuccess: onDone })}
    >
      <TextField
        label="What"
        path="name"
        value={body.name}
        required
        wide
        onChange={(name) => set({ name })}
      />
      <SelectField
        label="Kind"
        value={body.kind ?? "other"}
        options={kinds}
        onChange={(kind) => set({ kind: kinds.find(([name]) => name === kind)?.[0] ?? "other" })}
      />
      <TextField
        label="From whom"
        path="supplier"
        value={body.supplier ?? ""}
        onChange={(supplier) => set({ supplier })}
      />
      <NumberField
        label="How many"
        path="quantity"
        quantity="count"
        value={body.quantity ?? 1}
        system={system}
        onChange={(quantity) => quantity !== null && set({ quantity: Math.round(quantity) })}
      />
      <NumberField
        label={`Price of one, ${currency}`}
        path="price"
        quantity="finePrice"
        nullable
        value={body.price ?? null}
        system={system}
        onChange={(price) => set({ price })}
      />
      <DateField
        label="Order by"
        path="order_by"
        value={body.order_by ?? ""}
        onChange={(day) => set({ order_by: day || null })}
      />
      <TextField label="Note" path="note" value={body.note ?? ""} wide onChange={(note) => set({ note })} />
      <div className="col-span-full flex gap-2">
        <Button type="submit" primary disabled={save.isPending}>
          {order ? "Keep" : "Put on the list"}
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </Form>
  );
}
