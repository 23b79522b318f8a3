import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { beforeEach, expect, it } from "vitest";
import { systemStore } from "../../lib/settings";
import { Outbox } from "./outbox";
import { PickCell } from "./picks";
import type { Inspection } from "./queries";
import { ReadingCell } from "./ReadingCell";
import { type Sheet, SheetContext } from "./sheet";
import { shareText, wheelState } from "./words";

beforeEach(() => {
  localStorage.clear();
  systemStore.set("metric");
});

const inspection = (changes: Partial<Inspection> = {}): Inspection =>
  ({
    id: 1,
    cells: [],
    before_m: {},
    rulings: [],
    pads: {},
    photos: [],
    ...changes,
  }) as unknown as Inspection;

function sheet(children: ReactNode, found: Inspection = inspection(), open = true) {
  // A server that never answers: every entry stays in the outbox, where it can be looked at.
  const outbox = new Outbox(
    1,
    1,
    () => new Promise(() => undefined),
    () => undefined,
  );
  const value: Sheet = { inspection: found, outbox, open };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <SheetContext.Provider value={value}>{children}</SheetContext.Provider>
    </QueryClientProvider>,
  );
  return outbox;
}

const two = (
  <>
    <ReadingCell reading name="a.pad_inner_1" label="Pad, inner" />
    <PickCell
      name="a.surface"
      label="Faces"
      short="Faces"
      options={[
        ["", "not looked at"],
        ["sound", "nothing found"],
      ]}
    />
    <ReadingCell reading name="a.rotor_1" label="Point 1" />
  </>
);

it("keeps a reading on Enter, in SI, and goes on to the next reading before the picks", async () => {
  const outbox = sheet(two);
  await userEvent.type(screen.getByLabelText("Pad, inner"), "0.35 in{Enter}");
  expect(outbox.entries.get()["a.pad_inner_1"]?.value).toBeCloseTo(0.00889, 5);
  expect(document.activeElement).toBe(screen.getByLabelText("Point 1"));
  await userEvent.keyboard("19.42{Enter}");
  expect(document.activeElement).toBe(screen.getByRole("combobox"));
  expect(Object.keys(outbox.entries.get())).toEqual(["a.pad_inner_1", "a.rotor_1"]);
  await userEvent.keyboard("{Shift>}{Enter}{/Shift}");
  expect(document.activeElement).toBe(screen.getByLabelText("Point 1"));
});

it("holds the cursor and the text of what it does not understand", async () => {
  const outbox = sheet(two);
  const inner = screen.getByLabelText<HTMLInputElement>("Pad, inner");
  await userEvent.type(inner, "9 psi{Enter}");
  expect(document.activeElement).toBe(inner);
  expect(inner.value).toBe("9 psi");
  expect(inner.getAttribute("aria-invalid")).toBe("true");
  expect(outbox.entries.get()["a.pad_inner_1"]).toMatchObject({ state: "wrong", text: "9 psi" });
  // The next reading of a gauge replaces it.
  await userEvent.keyboard("8.9{Enter}");
  expect(outbox.entries.get()["a.pad_inner_1"]).toMatchObject({ state: "waiting", value: 0.0089 });
});

it("asks with the ways out, and keeps the answer", async () => {
  const outbox = sheet(two);
  outbox.entries.set({
    "a.pad_inner_1": {
      value: 0.000351,
      confirmed: false,
      source: "gauge",
      state: "asks",
      message: "0.35 mm is 8.8 mm less than last time.",
      inInches: 0.0089154,
    },
  });
  await screen.findByText(/8.8 mm less than last time/);
  await userEvent.click(screen.getByRole("button", { name: "It was inches: 8.92 mm" }));
  expect(outbox.entries.get()["a.pad_inner_1"]).toMatchObject({ state: "waiting", value: 0.0089154 });
});

it("says that a doubted reading is right, or takes it out", async () => {
  const asking = { value: 0.0165, confirmed: false, source: "hand", state: "asks", message: "?" } as const;
  const outbox = sheet(two);
  outbox.entries.set({ "a.pad_inner_1": asking, "a.rotor_1": asking });
  const [first] = await screen.findAllByRole("button", { name: "It is right, keep it" });
  await userEvent.click(first as HTMLElement);
  expect(outbox.entries.get()["a.pad_inner_1"]).toMatchObject({ confirmed: true, state: "waiting" });
  await userEvent.click(screen.getByRole("button", { name: "Take it out" }));
  expect(outbox.entries.get()["a.rotor_1"]).toBeUndefined();
});

it("empties a kept cell, and sends nothing for an empty one that was left", async () => {
  const kept = {
    name: "a.pad_inner_1",
    value: 0.009,
    confirmed: false,
    source: "hand",
    entered_at: "",
  } as const;
  const outbox = sheet(two, inspection({ cells: [kept] }));
  const inner = screen.getByLabelText<HTMLInputElement>("Pad, inner");
  expect(inner.value).toBe("9");
  await userEvent.clear(inner);
  await userEvent.keyboard("{Enter}");
  expect(outbox.entries.get()["a.pad_inner_1"]).toMatchObject({ value: null });
  await userEvent.keyboard("{Enter}");
  expect(outbox.entries.get()["a.rotor_1"]).toBeUndefined();
});

it("shows last time's reading in an empty cell, in the units in use", () => {
  systemStore.set("imperial");
  sheet(two, inspection({ before_m: { "a.rotor_1": 0.01949 } }));
  expect(screen.getByLabelText<HTMLInputElement>("Point 1").placeholder).toBe("0.7673");
});

it("takes nothing once the sheet is finished", () => {
  sheet(two, inspection(), false);
  expect(screen.getByLabelText<HTMLInputElement>("Pad, inner").disabled).toBe(true);
  expect(screen.getByRole<HTMLSelectElement>("combobox").disabled).toBe(true);
});

it("says the gravest of a wheel, unless it was overruled", () => {
  const ruling = {
    subject: "front_left.rotor",
    state: "over",
    headline: { template: "{place}: {found}", values: { place: "Front left rotor", found: "replace" } },
    overruled: null,
  };
  const found = inspection({
    rulings: [ruling] as unknown as Inspection["rulings"],
    pads: { "front_left.inner": "plan", "front_right.inner": "fine" },
  });
  expect(wheelState(found, "front_left", "metric")).toEqual({ state: "over", text: "replace" });
  expect(wheelState(found, "front_right", "metric")).toEqual({ state: "fine", text: "fine" });
  expect(wheelState(found, "rear_left", "metric")).toBeNull();
  const overruled = { ...ruling, overruled: { word: "keep" } };
  found.rulings = [overruled] as unknown as Inspection["rulings"];
  expect(wheelState(found, "front_left", "metric")).toEqual({ state: "close", text: "pads plan" });
  expect(shareText(0.004)).toBe("< 1 %");
  expect(shareText(0.955)).toBe("96 %");
});
