import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { expect, it, vi } from "vitest";
import type { Refused } from "../lib/refusals";
import { Form } from "./Form";
import { CheckField, SelectField, TextField } from "./fields";
import { type Column, Rows } from "./Rows";

type Piece = { length_m: number; radius_m: number | null; gear: string };
const columns: Column<Piece>[] = [
  { name: "length_m", label: "Length", quantity: "length", width: "w-24" },
  { name: "radius_m", label: "Radius", quantity: "length", empty: "straight", width: "w-24" },
  {
    name: "gear",
    label: "Gear",
    width: "w-24",
    options: [
      ["usual", "usual"],
      ["lower", "one lower"],
    ],
  },
];

type HeldProps = { rows: Piece[]; refused: Refused | null; seen: { last: Piece[] } };

/** Holds the rows, as a form does. */
function Held({ rows, refused, seen }: HeldProps) {
  const [held, setHeld] = useState(rows);
  return (
    <Form onSend={() => undefined} refused={refused}>
      <Rows
        title="Pieces"
        item="piece"
        rows={held}
        columns={columns}
        system="metric"
        blank={() => ({ length_m: 100, radius_m: null, gear: "usual" })}
        path={(index, name) => `pieces[${index}].${name}`}
        onChange={(next) => {
          seen.last = next;
          setHeld(next);
        }}
      />
    </Form>
  );
}

function table(rows: Piece[], refused: Refused | null = null) {
  const seen = { last: rows };
  render(<Held rows={rows} refused={refused} seen={seen} />);
  return seen;
}

const two = (): Piece[] => [
  { length_m: 300, radius_m: null, gear: "usual" },
  { length_m: 90, radius_m: 35, gear: "usual" },
];
const box = (name: string) => screen.getByLabelText<HTMLInputElement>(name);

it("types line by line, in any unit, with an empty box as an answer of its own", async () => {
  const seen = table(two());
  await userEvent.clear(box("Length, piece 1"));
  await userEvent.type(box("Length, piece 1"), "984 ft{Enter}");
  expect(seen.last[0]?.length_m).toBeCloseTo(299.92, 1);
  await userEvent.clear(box("Radius, piece 2"));
  await userEvent.tab();
  expect(seen.last[1]?.radius_m).toBeNull();
  expect(box("Radius, piece 2").placeholder).toBe("straight");
  await userEvent.selectOptions(box("Gear, piece 2"), "one lower");
  expect(seen.last[1]?.gear).toBe("lower");
});

it("adds a line like the last one, moves and takes out lines, never the only one", async () => {
  const seen = table(two());
  await userEvent.click(screen.getByRole("button", { name: "Add a piece" }));
  expect(seen.last).toHaveLength(3);
  expect(seen.last[2]).toEqual(seen.last[1]);
  await userEvent.click(screen.getByRole("button", { name: "Move piece 3 up" }));
  await userEvent.click(screen.getByRole("button", { name: "Move piece 2 up" }));
  expect(seen.last.map((row) => row.length_m)).toEqual([90, 300, 90]);
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "Move piece 1 up" }).disabled).toBe(true);
  await userEvent.click(screen.getByRole("button", { name: "Take out piece 1" }));
  await userEvent.click(screen.getByRole("button", { name: "Take out piece 1" }));
  expect(seen.last.map((row) => row.length_m)).toEqual([90]);
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "Take out piece 1" }).disabled).toBe(true);
});

it("keeps what was typed wrongly in a line while another line moves past it", async () => {
  table(two());
  await userEvent.clear(box("Length, piece 1"));
  await userEvent.type(box("Length, piece 1"), "long");
  await userEvent.click(screen.getByRole("button", { name: "Move piece 2 up" }));
  expect(box("Length, piece 2").value).toBe("long");
  expect(box("Length, piece 2").getAttribute("aria-invalid")).toBe("true");
});

it("says in its own cell what the server refused, in its unit, until it is typed again", async () => {
  const entry = { field: "pieces[1].radius_m", value: "0.5", allowed: "a number > 1", least: 1, above: true };
  table(two(), { detail: "a value is not allowed", fields: [entry] });
  const row = screen.getAllByRole("row")[2];
  if (!row) throw new Error("the second line is missing");
  expect(within(row).getByText("▲ Radius, piece 2: more than 1 m")).toBeTruthy();
  expect(screen.getAllByText(/▲/)).toHaveLength(1);
  await userEvent.type(box("Radius, piece 2"), "0");
  expect(screen.queryByText(/▲/)).toBeNull();
});

it("commits a text once, on leaving it or on Enter, and only when it has changed", async () => {
  const onCommit = vi.fn();
  render(<TextField label="Owner" value="M. Ashdale" suggestions={["R. Fenwick"]} onCommit={onCommit} />);
  await userEvent.click(box("Owner"));
  await userEvent.tab();
  expect(onCommit).not.toHaveBeenCalled();
  await userEvent.type(box("Owner"), " jr{Enter}");
  expect(onCommit).toHaveBeenCalledWith("M. Ashdale jr");
});

it("tells a choice by its value and a tick by its state", async () => {
  const [onWord, onTick] = [vi.fn(), vi.fn()];
  render(
    <>
      <SelectField
        label="Driven"
        value="rear"
        options={[
          ["front", "front wheels"],
          ["rear", "rear wheels"],
        ]}
        onChange={onWord}
      />
      <CheckField checked={false} onChange={onTick}>
        Pulls a trailer
      </CheckField>
    </>,
  );
  await userEvent.selectOptions(screen.getByRole("combobox"), "front wheels");
  await userEvent.click(screen.getByRole("checkbox", { name: "Pulls a trailer" }));
  expect(onWord).toHaveBeenCalledWith("front");
  expect(onTick).toHaveBeenCalledWith(true);
});
