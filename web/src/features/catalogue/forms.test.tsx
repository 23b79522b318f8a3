import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, it, vi } from "vitest";
import { systemStore } from "../../lib/settings";
import { todayIso } from "../../lib/text";
import { draw, Refused } from "../../testing/page.test.helper";
import { OwnReadings } from "./OwnReadings";
import { PartForm } from "./PartForm";

beforeEach(() => systemStore.set("metric"));

const column = { needed: true, kind: "number", words: [] };
const part = {
  table: "fluids",
  columns: [
    { ...column, field: "name", heading: "fluid", kind: "text" },
    { ...column, field: "standard", heading: "standard", kind: "word", words: ["DOT 4", "other"] },
    { ...column, field: "dry_C", heading: "dry boiling point, °C" },
    { ...column, field: "price", heading: "price of a litre", needed: false },
  ],
  cells: { name: "Beck 4", standard: "DOT 4", dry_C: "255", price: "" },
};
const open = { table: "fluids" as const, name: "Beck 4", second: "", key: { name: "Beck 4" } };

it("names the cell that is not allowed, keeps what was typed, and closes once it is kept", async () => {
  const onClose = vi.fn();
  const asked = draw(<PartForm part={open} onClose={onClose} />, {
    "GET /api/catalogue/part/fluids": part,
    "PUT /api/catalogue/part": ({ body }: { body: unknown }) =>
      (body as { cells: Record<string, string> }).cells.dry_C === "260"
        ? { added: [], changed: ["Beck 4"], same: 0, errors: [], written: true }
        : new Refused(422, {
            type: "/problems/field",
            title: "",
            status: 422,
            detail: "cells.dry_C must be a number",
            fields: [{ field: "cells.dry_C", value: "hot", allowed: "a number from 100 to 400" }],
          }),
  });
  const box = await screen.findByRole<HTMLInputElement>("textbox", { name: "dry boiling point, °C" });
  expect(screen.getByRole("textbox", { name: "price of a litre (may be left empty)" })).toBeTruthy();
  await userEvent.clear(box);
  await userEvent.type(box, "hot");
  await userEvent.click(screen.getByRole("button", { name: "Keep the change" }));
  expect(await screen.findByText("▲ Dry boiling point, °C: a number from 100 to 400")).toBeTruthy();
  expect(box.value).toBe("hot");
  expect(onClose).not.toHaveBeenCalled();
  await userEvent.clear(box);
  await userEvent.type(box, "260");
  await userEvent.selectOptions(screen.getByRole("combobox", { name: "standard" }), "other");
  await userEvent.click(screen.getByRole("button", { name: "Keep the change" }));
  await waitFor(() => expect(onClose).toHaveBeenCalled());
  expect(asked.filter(({ method }) => method === "PUT").at(-1)?.body).toEqual({
    table: "fluids",
    cells: { ...part.cells, dry_C: "260", standard: "other" },
    before: { name: "Beck 4" },
    sure: false,
  });
});

const compound = {
  id: 6,
  name: "Garth Road",
  family: "low-metallic",
  provenance: "maker" as const,
  window_low_C: 0,
  window_high_C: 450,
  limit_C: 560,
  bed_low_C: 150,
  bed_high_C: 300,
  noise: 1.5,
  dust: 4,
  wear_mm3_per_MJ: 50,
  rotor_wear_m: 0.0003,
  rotor_wear_measured: false,
  bedding: "Twenty moderate stops.",
  mu: [],
  own: [{ id: 2, temperature_C: 150, mu: 0.37, curve_mu: 0.41, measured_on: "2026-11-20", how: "gauge" }],
  own_ratio: 0.902,
  own_sigma: 0.06,
  use_own: false,
  shapes: [],
};
const answers = {
  "GET /api/session": { user: "demo", workshop: "W", currency: "£" },
  "GET /api/machines": [{ id: 3, name: "Kit roadster" }],
  "POST /api/catalogue/compounds/6/readings": compound,
  "PUT /api/catalogue/compounds/6/use-own": compound,
  "PUT /api/catalogue/readings/2/removed": compound,
};

it("says how own readings lie to the curve, counts them when asked to, takes one out and brings it back", async () => {
  const asked = draw(<OwnReadings compound={compound} />, answers);
  expect(screen.getByText(/They lie 10 % below the curve/).textContent).toContain("give or take 6 %");
  expect(screen.getByText(/Twenty moderate stops/)).toBeTruthy();
  await userEvent.click(screen.getByRole("checkbox", { name: /the whole curve × 0.90/ }));
  await userEvent.click(screen.getByRole("button", { name: "Take out: 0.370" }));
  await userEvent.click(await screen.findByRole("button", { name: "Undo" }));
  const put = asked
    .filter(({ method }) => method === "PUT")
    .map(({ path, body }) => [path.split("/").pop(), body]);
  expect(put).toEqual([
    ["use-own", { use_own: true }],
    ["removed", { removed: true }],
    ["removed", { removed: false }],
  ]);
});

it("works friction out of one braking, says whose pads they were, and keeps the reading with its day", async () => {
  let pad_id = 5;
  const asked = draw(<OwnReadings compound={compound} />, {
    ...answers,
    "POST /api/machines/3/friction": () => ({
      mu: 0.3845,
      pad_id,
      pad: pad_id === 6 ? "Garth Road" : "Fellmark R4",
    }),
  });
  await screen.findByRole("option", { name: "Kit roadster" });
  const type = (name: string, text: string) => userEvent.type(screen.getByRole("textbox", { name }), text);
  await type("Pedal force", "120");
  await type("Deceleration", "0.5");
  await type("Speed at it", "72");
  await userEvent.click(screen.getByRole("button", { name: "Work it out" }));
  expect((await screen.findByRole("alert")).textContent).toContain("has Fellmark R4 on, not Garth Road");
  pad_id = 6;
  await userEvent.click(screen.getByRole("button", { name: "Work it out" }));
  expect(await screen.findByText("0.385")).toBeTruthy();
  expect(asked.find(({ path }) => path.endsWith("friction"))?.body).toEqual({
    pedal_N: 120,
    decel_mps2: 0.5 * 9.80665,
    speed_mps: 20,
  });
  await type("Ring temperature", "150");
  await userEvent.click(screen.getByRole("button", { name: "Keep the reading" }));
  await waitFor(() => expect(asked.some(({ path }) => path.endsWith("/readings"))).toBe(true));
  expect(asked.find(({ path }) => path.endsWith("/readings"))?.body).toEqual({
    temperature_C: 150,
    mu: 0.385,
    measured_on: todayIso(),
    how: "Kit roadster: 120 N gave 0.50 g",
  });
});
