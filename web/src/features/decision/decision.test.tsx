import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { systemStore } from "../../lib/settings";
import { draw } from "../../testing/page.test.helper";
import { noWhatIf, whatIfStore } from "../whatif";
import { DecisionView } from "./DecisionView";
import { KeepForm, Kept } from "./Kept";

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
  profile: [1],
});
const weights = {
  heat_margin: 5,
  cold_bite: 2,
  pedal: 2,
  pad_life: 3,
  quiet: 1,
  clean_wheels: 0,
  rotor_wear: 1,
  cost: 3,
};
const set = (changes: Partial<Schemas["DecidedSet"]>): Schemas["DecidedSet"] => ({
  key: "1",
  pad: "R4",
  rear_pad: "R4",
  pads: "R4",
  set_up: "",
  family: "organic",
  provenance: "maker",
  front_rotor: "slotted",
  rear_rotor: "solid",
  score: 54.5,
  dominated_by: null,
  rejected_for: null,
  reason: {
    template: "{hottest:temperature} at most, {left:temperatureChange} to the nearest limit.",
    values: { hottest: 628, left: 112 },
  },
  front: axle(628),
  rear: axle(439),
  window_share: 0.94,
  pedal_worst_N: 291,
  fluid_peak_C: 160,
  fluid_margin_K: 85,
  worn_margin_K: 41,
  life_events: 52,
  life_hours: 19,
  cost_per_hour: 13.71,
  pads_price: 263,
  fitted: false,
  place: 1,
  chosen: true,
  any_probability: 0,
  lowest_margin_K: 112,
  cold_mu: 0.3,
  front_share: 0.73,
  lock_first: "front",
  lock_g: 0.95,
  rotors_price: 186,
  ...changes,
});
const content: Schemas["DecisionContent"] = {
  machine: "Kit roadster",
  machine_note: "",
  duty: "Relay stint",
  duty_note: "",
  event_km: 60,
  event_hours: 0.36,
  events_per_month: 2,
  currency: "£",
  fluid: "Fellmark 310",
  fluid_age_months: 14,
  boiling_C: 245,
  total: 80,
  passing: 36,
  draws: 64,
  mixed: false,
  weights,
  what_if: { ...noWhatIf, extra_mass_kg: 40 },
  levers: {
    air_C: 18,
    mass_kg: 690,
    fluid_age_months: 14,
    driver_level: null,
    driver_levels: [],
    repeats: 32,
    noun: "lap",
    speed_mps: null,
    gears: [],
  },
  sets: [
    set({}),
    set({
      key: "2",
      pads: "R2",
      chosen: false,
      place: null,
      rejected_for: "pad fades",
      any_probability: 0.5,
    }),
  ],
  rejected: [
    {
      pads: "Quiet",
      rotors: "plain, solid",
      rejected_for: "pad fades",
      reason: { template: "The front ring reaches {value:temperature}.", values: { value: 645 } },
    },
  ],
  inputs: [
    { path: "vehicle.mass_kg", value: 730, estimate: false },
    { path: "vehicle.cg_height_m", value: 0.42, estimate: true },
  ],
  assumptions: ["pads are bedded"],
};

const shown = () =>
  draw(
    <DecisionView
      title="For the relay"
      note="Ask first"
      workshop="Tarnside"
      made_at="2026-11-25T10:00:00Z"
      fitted
      engine="0.1.0"
      content={content}
    />,
    {},
  );

it("reads as it was shown: which was chosen, how likely it crosses, what was tried, what it rests on", () => {
  shown();
  const page = screen.getByRole("article", { name: "For the relay" });
  for (const text of [
    "Fitted · Tarnside · 25 November 2026 · engine 0.1.0",
    "36 of 80 combinations pass",
    "Ask first",
    "40 kg more on board",
    "pads are bedded",
    "2 numbers of the machine, 1 of them estimates",
  ])
    expect(page.textContent).toContain(text);
  const row = (name: string) =>
    within(screen.getByRole("table", { name: "The sets" })).getByRole("row", { name: new RegExp(`^${name}`) })
      .textContent;
  expect(row("Place")).toBe("Place1 of 36, 55 points▲ out: pad fades");
  expect(row("Likely over a limit")).toBe("Likely over a limitunder 2 %50 %");
  expect(screen.getByRole("columnheader", { name: /R4.*chosen/ })).toBeTruthy();
});

it("follows the reader's units, reasons and rejections too", () => {
  systemStore.set("imperial");
  shown();
  const page = screen.getByRole("article").textContent;
  expect(page).toContain("1162 °F at most, 202 °F to the nearest limit");
  expect(page).toContain("The front ring reaches 1193 °F.");
  expect(page).toContain("88 lb more on board");
});

it("keeps a shortlist under a title of its own or the usual one, with what is being tried", async () => {
  whatIfStore.set({ 3: { ...noWhatIf, air_C: 30 } });
  const asked = draw(
    <KeepForm
      machineId={3}
      keys={["1", "2"]}
      names={["R4", "R2"]}
      weights={weights}
      mixed={false}
      duty="Relay stint"
    />,
    { "POST /api/machines/3/decisions": { id: 9, title: "Shortlist for Relay stint" } },
  );
  await userEvent.type(screen.getByRole("textbox", { name: "Note" }), "second driver");
  await userEvent.click(screen.getByRole("button", { name: "Keep" }));
  expect((await screen.findByRole("link")).getAttribute("href")).toBe("/m/3/decision/9");
  expect(asked[0]?.body).toEqual({
    ...noWhatIf,
    air_C: 30,
    keys: ["1", "2"],
    weights,
    mixed: false,
    title: "Shortlist for Relay stint",
    note: "second driver",
  });
});

it("offers nothing to keep where nothing is chosen, and lists what was kept with a way back", async () => {
  const row = {
    id: 4,
    title: "Spring",
    made_at: "2026-04-01T08:00:00Z",
    fitted: true,
    shared: true,
    removed: false,
  };
  const asked = draw(
    <>
      <KeepForm machineId={3} keys={[]} names={[]} weights={null} mixed={false} duty="" />
      <Kept machineId={3} />
    </>,
    {
      "GET /api/machines/3/decisions": [row, { ...row, id: 5, title: "Old", removed: true }],
      "PUT /api/decisions/5/removed": row,
    },
  );
  expect(await screen.findByRole("link", { name: "Spring" })).toBeTruthy();
  expect(screen.queryByRole("form")).toBeNull();
  expect(screen.queryByRole("link", { name: "Old" })).toBeNull();
  await userEvent.click(screen.getByRole("button", { name: "Bring back: Old" }));
  expect(asked.find(({ method }) => method === "PUT")?.body).toEqual({ removed: false });
});
