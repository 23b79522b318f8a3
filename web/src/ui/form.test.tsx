import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import fc from "fast-check";
import { useState } from "react";
import { expect, it, vi } from "vitest";
import type { Refused } from "../lib/refusals";
import { type Quantity, type System, unitOf } from "../lib/units";
import { Button } from "./basics";
import { DateField } from "./DateField";
import { Form } from "./Form";
import { TextField } from "./fields";
import { NumberField, type Usual } from "./NumberField";
import { PasswordField } from "./PasswordField";

type Sent = { first: number | null; second: number | null };
type Props = {
  send: (sent: Sent) => void;
  quantity?: Quantity;
  system?: System;
  usual?: Usual | undefined;
  refused?: Refused | null;
  tyre?: boolean;
};

/** Two numbers and a button, as every form has them. */
function Two({ send, quantity = "mass", system = "metric", usual, refused = null, tyre }: Props) {
  const [first, setFirst] = useState<number | null>(null);
  const [second, setSecond] = useState<number | null>(2);
  const common = { quantity, system, nullable: true, usual, tyre };
  return (
    <Form label="Two" refused={refused} onSend={() => send({ first, second })}>
      <NumberField {...common} label="First" path="a.first" value={first} onCommit={setFirst} />
      <details>
        <summary>more</summary>
        <NumberField {...common} label="Second" path="a.second" value={second} onCommit={setSecond} />
      </details>
      <Button type="submit">Add</Button>
    </Form>
  );
}

const box = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
const add = () => userEvent.click(screen.getByRole("button", { name: "Add" }));

it("sends nothing while a field is refused, and goes to it, folded away or not", async () => {
  const send = vi.fn();
  render(<Two send={send} />);
  await userEvent.type(box("First"), "195/50R15");
  await add();
  expect(send).not.toHaveBeenCalled();
  expect(document.activeElement).toBe(box("First"));
  expect(screen.getByRole("alert").textContent).toContain("one field needs another look");
  expect(box("First").value).toBe("195/50R15");
  await userEvent.clear(box("First"));
  fireEvent.change(box("Second"), { target: { value: "two" } });
  await add();
  expect(send).not.toHaveBeenCalled();
  expect(document.activeElement).toBe(box("Second"));
  expect(screen.getByRole<HTMLDetailsElement>("group").open).toBe(true);
  fireEvent.change(box("Second"), { target: { value: "3" } });
  fireEvent.blur(box("Second"));
  await add();
  expect(send).toHaveBeenCalledExactlyOnceWith({ first: null, second: 3 });
});

it("goes on with Enter and sends on the button only", async () => {
  const send = vi.fn();
  render(<Two send={send} />);
  screen.getByRole<HTMLDetailsElement>("group").open = true;
  await userEvent.type(box("First"), "5{Enter}");
  expect(document.activeElement).toBe(box("Second"));
  await userEvent.keyboard("{Enter}");
  expect(document.activeElement).toBe(screen.getByRole("button", { name: "Add" }));
  expect(send).not.toHaveBeenCalled();
  await userEvent.keyboard("{Enter}");
  expect(send).toHaveBeenCalledExactlyOnceWith({ first: 5, second: 2 });
});

it("asks once about what lies far outside its class, and takes the answer", async () => {
  const send = vi.fn();
  render(<Two send={send} usual={{ low: 1100, high: 1400, of: "a hatchback" }} />);
  await userEvent.clear(box("Second"));
  await userEvent.type(box("First"), "1.08{Enter}");
  expect(screen.getByText(/1.08 kg\? Usual for a hatchback: 1100 to 1400 kg/)).toBeTruthy();
  await add();
  expect(send).not.toHaveBeenCalled();
  await userEvent.click(screen.getByRole("button", { name: /Yes, 1.08 kg/ }));
  await add();
  expect(send).toHaveBeenCalledExactlyOnceWith({ first: 1.08, second: null });
});

it("reads 1,080 by what is usual, and asks where nothing is", async () => {
  const send = vi.fn();
  const view = render(<Two send={send} quantity="thickness" />);
  await userEvent.type(box("First"), "1,080");
  await add();
  expect(send).not.toHaveBeenCalled();
  await userEvent.click(screen.getByRole("button", { name: /^1.08 mm/ }));
  await add();
  expect(send).toHaveBeenLastCalledWith({ first: 0.00108, second: 2 });
  view.unmount();
  render(<Two send={send} quantity="thickness" usual={{ low: 0.5, high: 1.5, of: "a plank" }} />);
  await userEvent.type(box("First"), "1,080{Enter}");
  expect(box("First").value).toBe("1080");
});

it("takes a tyre's size for its rolling radius, and shows it", async () => {
  const send = vi.fn();
  render(<Two send={send} quantity="length" tyre />);
  await userEvent.type(box("First"), "195/50R15");
  await add();
  expect(send.mock.calls[0]?.[0].first).toBeCloseTo(0.2796, 4);
  expect(box("First").value).toBe("0.2796");
  expect(screen.getByText(/195\/50 R15 rolls on 280 mm, of 288 mm free/)).toBeTruthy();
});

it("says a refusal at its field, what has no field below, and neither once it is corrected", async () => {
  const refused = {
    detail: "'a.first' must be a number > 0",
    fields: [
      { field: "a.first", value: "-1", allowed: "a number > 0 and <= 500", least: 0, above: true, most: 500 },
      { field: "a.outer_radius_m", value: "1", allowed: "a number <= 0.5", most: 0.5 },
    ],
  };
  render(<Two send={vi.fn()} system="imperial" refused={refused} />);
  expect(screen.getByText("▲ First: more than 0 lb and at most 1102.3 lb")).toBeTruthy();
  expect(screen.getByRole("alert").textContent).toContain("A outer radius: at most 0.5 m");
  await userEvent.type(box("First"), "3");
  expect(screen.queryByText(/First: more than/)).toBeNull();
});

it("goes to the field a refusal is about, unfolded, once what was sent is answered", async () => {
  const fields = [{ field: "a.second", value: "2", allowed: "", most: 1 }];
  const view = render(<Two send={vi.fn()} refused={null} />);
  view.rerender(<Two send={vi.fn()} refused={{ detail: "", fields }} />);
  // While typing, nobody asked: the hand stays.
  expect(screen.getByRole<HTMLDetailsElement>("group").open).toBe(false);
  await add();
  view.rerender(<Two send={vi.fn()} refused={{ detail: "", fields }} />);
  expect(screen.getByRole<HTMLDetailsElement>("group").open).toBe(true);
  expect(document.activeElement).toBe(box("Second"));
});

it.each(["Name", "Day", "Password"])(
  "goes to words, a day or a password that was refused: %s",
  async (name) => {
    const nothing = () => {};
    const form = (refused: Refused | null) => (
      <Form label="Words" refused={refused} onSend={nothing}>
        <TextField label="Name" path="Name" value="Ann" onChange={nothing} />
        <DateField label="Day" path="Day" value="2026-03-14" onChange={nothing} />
        <PasswordField
          label="Password"
          path="Password"
          value="word"
          complete="new-password"
          onChange={nothing}
        />
        <Button type="submit">Add</Button>
      </Form>
    );
    const view = render(form(null));
    await add();
    view.rerender(form({ detail: "", fields: [{ field: name, value: "", allowed: "another" }] }));
    expect(document.activeElement).toBe(box(name));
  },
);

// Whatever is typed: what is sent is what stands in the box, or nothing is sent and the text stays.
const digits = fc.stringMatching(/^[0-9]{1,4}$/);
const typed = fc.oneof(
  fc
    .tuple(
      fc.constantFrom("", "-", "+"),
      fc.array(digits, { minLength: 1, maxLength: 3 }),
      fc.constantFrom(".", ",", " ", "'", "/", "\u202f"),
      fc.constantFrom("", "kg", "lb", "mm", "in", " in", "m", "°F", "µm", "%", "stone"),
    )
    .map(([sign, parts, mark, unit]) => sign + parts.join(mark) + unit),
  fc.string({ maxLength: 8 }),
);

it("stores what the reader sees, or sends nothing: for any text typed", () => {
  const cases = fc.tuple(
    typed,
    fc.constantFrom<Quantity>("mass", "thickness", "length", "temperature", "percent", "pressure"),
    fc.constantFrom<System>("metric", "imperial"),
    fc.boolean(),
  );
  fc.assert(
    fc.property(cases, ([text, quantity, system, tyre]) => {
      const send = vi.fn();
      render(<Two send={send} quantity={quantity} system={system} tyre={tyre && quantity === "length"} />);
      fireEvent.change(box("First"), { target: { value: text } });
      fireEvent.blur(box("First"));
      fireEvent.submit(screen.getByRole("form", { name: "Two" }));
      const seen = box("First").value.replace(/[\s\u202f]/g, "");
      if (send.mock.calls.length === 0) expect(box("First").value).toBe(text);
      else {
        const [{ first }] = send.mock.calls[0] as [Sent];
        if (first === null) expect(seen).toBe("");
        else {
          const { factor, offset = 0 } = unitOf(quantity, system);
          const stored = first * factor + offset;
          // Digits and a point, which read the same everywhere; rounded to what the box has room for.
          expect(seen).toMatch(/^-?\d+(\.\d+)?$/);
          expect(Math.abs(Number(seen) - stored)).toBeLessThanOrEqual(5e-4 * Math.abs(stored) + 1e-12);
        }
      }
      cleanup();
    }),
    { numRuns: 200 },
  );
}, 60_000);
