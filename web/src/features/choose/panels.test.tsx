import { fireEvent, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, it, vi } from "vitest";
import { verbatim } from "../../lib/said";
import { systemStore } from "../../lib/settings";
import { draw, Refused, session } from "../../testing/page.test.helper";
import { noWhatIf, whatIfStore } from "../whatif";
import { Buying } from "./Buying";
import type { Candidate } from "./candidates";
import { Fluids } from "./Fluids";
import { LadderPanel } from "./LadderPanel";
import { WhatIfSliders } from "./sliders";
import { WaysOut } from "./WaysOut";

beforeEach(() => {
  systemStore.set("metric");
  whatIfStore.set({});
});

const axle = (peak_C: number) => ({
  peak_C,
  window_low_C: 200,
  window_high_C: 700,
  pad_limit_C: 800,
  rotor_limit_C: 740,
  profile: [0.5, 0.5],
});
const candidate = (key: string, changes: Partial<Candidate> = {}): Candidate => ({
  key,
  pad: `P${key}`,
  rear_pad: `P${key}`,
  pads: `P${key}`,
  set_up: "",
  family: "organic",
  provenance: "maker",
  front_rotor: "plain",
  rear_rotor: "plain",
  score: 50,
  dominated_by: null,
  rejected_for: null,
  reason: verbatim(""),
  front: axle(600),
  rear: axle(400),
  window_share: 1,
  pedal_worst_N: 300,
  fluid_peak_C: 160,
  fluid_margin_K: 100,
  worn_margin_K: 60,
  life_events: 10,
  life_hours: 5,
  cost_per_hour: 2,
  pads_price: 100,
  fitted: false,
  ...changes,
});
const fluid = (id: number, changes: object = {}) => ({
  id,
  name: `Fluid ${id}`,
  standard: "DOT 4",
  dry_C: 270,
  wet_C: 170,
  price: 10,
  in_machine: false,
  now_K: 110,
  fresh_K: 110,
  wet_K: 10,
  boils_months: null,
  change_months: 13.3,
  limited_by: "heat",
  price_per_year: 9.02,
  ...changes,
});

it("says what every fluid leaves, fills one, and puts the old one back", async () => {
  const filled = {
    fluid_id: 2,
    name: "Fluid 2",
    age_months: 0,
    before_id: 1,
    before: "Fluid 1",
    before_months: 14,
  };
  const asked = draw(<Fluids machineId={3} candidate={candidate("1")} mixed={false} />, {
    "GET /api/session": session,
    "POST /api/machines/3/fluids": {
      peak_C: 160,
      age_months: 14,
      fluids: [fluid(2), fluid(1, { in_machine: true, now_K: 40, change_months: 4, boils_months: 21.4 })],
    },
    "PUT /api/machines/3/fluid": filled,
  });
  const rows = await screen.findAllByRole("row");
  expect(rows[1]?.textContent).toContain("at 13 months");
  expect(rows[2]?.textContent).toContain("in it, 14 months old");
  expect(rows[2]?.textContent).toContain("◐ at 4 months; boils at 21");
  await userEvent.click(screen.getByRole("button", { name: "Filled today: Fluid 2" }));
  await userEvent.click(await screen.findByRole("button", { name: "Undo: Fluid 1, 14 months" }));
  expect(asked.filter(({ method }) => method === "PUT").map(({ body }) => body)).toEqual([
    { fluid_id: 2, age_months: 0 },
    { fluid_id: 1, age_months: 14 },
  ]);
});

it("asks for ways out only when they are wanted, and says them in the reader's units", async () => {
  systemStore.set("imperial");
  const way = { outcome: "value", unit: "", low: 1, high: 6 };
  const asked = draw(<WaysOut machineId={3} candidate={candidate("7")} mixed />, {
    "POST /api/machines/3/sets/ways-out": {
      ways: [
        {
          ...way,
          question: "cooling_to_pass",
          value: 1.42,
          text: verbatim("Cooling × 1.5: then no limit is crossed."),
        },
        {
          ...way,
          question: "mass_to_pass",
          value: 612,
          unit: "kg",
          text: { template: "No more than {value:mass|down} in all.", values: { value: 612 } },
        },
        {
          ...way,
          question: "driver_to_pass",
          outcome: "none",
          value: null,
          text: {
            template: "Not by driving slower: the front ring reaches {value:temperature}.",
            values: { value: 500 },
          },
        },
      ],
    },
  });
  expect(asked).toEqual([]);
  await userEvent.click(screen.getByRole("button", { name: /What would let it pass/ }));
  const items = await screen.findAllByRole("listitem");
  expect(items.map((item) => item.textContent)).toEqual([
    "● yes Cooling × 1.5: then no limit is crossed.",
    "● yes No more than 1300 lb in all.",
    "▲ no Not by driving slower: the front ring reaches 932 °F.",
  ]);
  expect(asked[0]?.body).toEqual({ ...noWhatIf, key: "7", mixed: true });
});

it("asks the counter on demand: sides, stock, what is missing, the total", async () => {
  const line = { kind: "rotors, front", count: 2, list_price: 64, price: 70.37, in_stock: 1, lead_days: 9 };
  draw(<Buying machineId={3} candidate={candidate("7")} mixed={false} />, {
    "GET /api/session": session,
    "POST /api/machines/3/sets/parts": {
      lines: [
        { ...line, name: "Tarn 260 slotted", note: "one left and one right: the vanes lean backwards" },
      ],
      list_total: 128,
      total: 140.74,
      ready_on: "2026-12-04",
    },
  });
  await userEvent.click(screen.getByRole("button", { name: "Ask for price, stock and lead time" }));
  const table = await screen.findByRole("table", { name: "Parts of the set" });
  expect(table.textContent).toContain("one left and one right");
  expect(table.textContent).toContain("1 there, more in 9 days");
  expect(
    within(table).getByRole("row", { name: /^All of it, by 4 December 2026 £128.00 £140.74/ }),
  ).toBeTruthy();
});

const levers = {
  air_C: 18,
  mass_kg: 690,
  fluid_age_months: 14,
  driver_level: "intermediate",
  driver_levels: ["novice", "intermediate", "advanced"],
  repeats: 32,
  noun: "lap",
  speed_mps: null,
  gears: [],
};

it("has a slider for every lever of the duty, and back is back", async () => {
  draw(<WhatIfSliders machineId={3} />, { "GET /api/machines/3/levers": levers });
  const names = (await screen.findAllByRole("slider")).map((slider) => slider.getAttribute("aria-label"));
  expect(names).toEqual(["Ducts, cooling", "Air", "Mass as driven", "Driver", "Laps", "Age of the fluid"]);
  const press = (name: string, key: string) => {
    screen.getByRole("slider", { name }).focus();
    return userEvent.keyboard(`{${key}}`);
  };
  await press("Driver", "ArrowRight");
  await press("Laps", "ArrowLeft");
  await press("Age of the fluid", "ArrowRight");
  expect(whatIfStore.get()[3]).toEqual({
    ...noWhatIf,
    driver_level: "advanced",
    repeats: 31,
    fluid_age_months: 15,
  });
  expect(screen.getByRole("slider", { name: "Driver" }).getAttribute("aria-valuetext")).toBe("advanced");
  await press("Driver", "ArrowLeft");
  await press("Laps", "ArrowRight");
  await press("Age of the fluid", "ArrowLeft");
  expect(whatIfStore.get()[3]).toEqual(noWhatIf);
  expect(screen.queryByRole("button", { name: "Back to the machine" })).toBeNull();
});

it("has speed and gear instead of laps on a descent", async () => {
  const down = {
    ...levers,
    driver_level: null,
    driver_levels: [],
    repeats: null,
    speed_mps: 10,
    gears: ["usual", "one_lower"],
  };
  draw(<WhatIfSliders machineId={4} />, { "GET /api/machines/4/levers": down });
  const gear = await screen.findByRole("slider", { name: "Gear" });
  expect(screen.queryByRole("slider", { name: "Laps" })).toBeNull();
  expect(screen.getByRole("slider", { name: "Speed down the hill" }).getAttribute("aria-valuetext")).toBe(
    "36 km/h",
  );
  gear.focus();
  await userEvent.keyboard("{ArrowRight}");
  expect(gear.getAttribute("aria-valuetext")).toBe("one lower, engine × 1.4");
  expect(whatIfStore.get()[4]?.gear).toBe("one_lower");
});

it("walks along the ladder by arrow keys and looks at one moment of the columns in sight", async () => {
  const columns = [candidate("1"), candidate("2", { rejected_for: "pad fades" }), candidate("3")];
  const onSelect = vi.fn();
  const chance = { crossings: [], front_p10_C: 1, front_p90_C: 2, rear_p10_C: 1, rear_p90_C: 2 };
  const set = { front_surface_C: [20, 500], rear_surface_C: [20, 300], fluid_C: [20, 90] };
  const asked = draw(
    <LadderPanel
      machineId={3}
      mixed={false}
      columns={columns}
      ranked={[columns[0] as Candidate, columns[2] as Candidate]}
      selected="1"
      fluid={null}
      chances={{
        draws: 64,
        sets: [
          { ...chance, key: "1", any_probability: 0 },
          { ...chance, key: "2", any_probability: 0.5 },
        ],
      }}
      onSelect={onSelect}
    />,
    {
      "POST /api/machines/3/sets/scrub": { t_s: [0, 100], sets: columns.map(({ key }) => ({ ...set, key })) },
    },
  );
  const ladder = screen.getByRole("region", { name: /^Heat ladder/ });
  fireEvent.keyDown(ladder, { key: "ArrowRight" });
  expect(onSelect).toHaveBeenLastCalledWith("2");
  fireEvent.keyDown(ladder, { key: "ArrowLeft" });
  expect(onSelect).toHaveBeenLastCalledWith("1");
  const named = screen.getAllByRole("listitem").map((item) => item.textContent);
  expect(named[0]).toContain("1st, 50 points");
  expect(named[0]).toContain("over a limit: under 2 % likely");
  expect(named[1]).toContain("out: pad fades");
  expect(named[1]).toContain("over a limit: 50 % likely");
  expect(named[2]).not.toContain("over a limit");
  expect(asked).toEqual([]);
  const moment = screen.getByRole("slider", { name: "Moment of the duty" });
  expect(moment.getAttribute("aria-valuetext")).toBe("the whole of it");
  moment.focus();
  await userEvent.keyboard("{End}");
  expect(await screen.findAllByText("500")).not.toHaveLength(0);
  expect(asked[0]?.body).toMatchObject({ keys: ["1", "2", "3"] });
  expect(moment.getAttribute("aria-valuetext")).toBe("1:40");
});

it("keeps a refused question on the page with a way to ask again", async () => {
  const problem = {
    type: "/problems/solve",
    title: "",
    status: 422,
    detail: "Choose a duty first",
    fields: [],
  };
  let broken = true;
  draw(<WaysOut machineId={3} candidate={candidate("7")} mixed={false} />, {
    "POST /api/machines/3/sets/ways-out": () => (broken ? new Refused(422, problem) : { ways: [] }),
  });
  await userEvent.click(screen.getByRole("button", { name: /What would let it pass/ }));
  expect((await screen.findByRole("alert")).textContent).toContain("Choose a duty first");
  broken = false;
  await userEvent.click(screen.getByRole("button", { name: "Retry" }));
  expect(await screen.findByText("As it is tried now, it passes.")).toBeTruthy();
});
