import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { todayIso } from "../../lib/text";
import { draw } from "../../testing/page.test.helper";
import { Orders, orderState } from "./Orders";

const order = (changes: Partial<Schemas["OrderOut"]>): Schemas["OrderOut"] => ({
  id: 7,
  version: 2,
  name: "Fellmark R2, front",
  kind: "pads",
  machine_id: 1,
  machine: "Kit roadster",
  event_id: 3,
  event: "Relay, round 1",
  axle: "front",
  variant_id: 9,
  rotor_id: null,
  supplier: "the parts counter",
  quantity: 2,
  price: 88,
  lead_days: 5,
  order_by: "2026-12-01",
  note: "",
  ordered_on: null,
  arrived_on: null,
  on_shelf: "",
  removed: false,
  ...changes,
});

it("says how far an order is", () => {
  const today = "2026-12-02";
  expect(orderState(order({}), today)).toEqual(["over", "late to order"]);
  expect(orderState(order({ order_by: today }), today)).toEqual(["close", "to order"]);
  expect(orderState(order({ ordered_on: today }), today)).toEqual(["fine", "ordered"]);
  expect(orderState(order({ arrived_on: today }), today)).toEqual(["fine", "has come"]);
  expect(orderState(order({ arrived_on: today, on_shelf: "Fellmark R2" }), today)).toEqual([
    "fine",
    "on the shelf",
  ]);
});

it("is ticked as ordered today, and changed with everything it had", async () => {
  const asked = draw(<Orders orders={[order({})]} currency="£" />, {
    "PUT /api/orders/7/ticked": order({ ordered_on: todayIso() }),
    "PUT /api/orders/7": order({}),
  });
  screen.getByText(/Kit roadster · front axle · for Relay, round 1 · the parts counter · £176/);
  await userEvent.click(screen.getByRole("button", { name: "Ordered" }));
  expect(asked.at(-1)).toEqual({
    method: "PUT",
    path: "/api/orders/7/ticked",
    body: { ordered_on: todayIso(), arrived_on: null },
  });
  await userEvent.click(screen.getByRole("button", { name: "Change" }));
  const what = screen.getByLabelText("What");
  await userEvent.clear(what);
  await userEvent.type(what, "Fellmark R3");
  await userEvent.click(screen.getByRole("button", { name: "Keep" }));
  const {
    id: _,
    machine: _m,
    event: _e,
    ordered_on: _o,
    arrived_on: _a,
    on_shelf: _s,
    removed: _r,
    ...kept
  } = order({});
  expect(asked.at(-1)?.body).toEqual({ ...kept, name: "Fellmark R3" });
});
