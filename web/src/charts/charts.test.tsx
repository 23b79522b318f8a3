import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import { temperatureMarks } from "../lib/temperature";
import { SteelRule } from "../ui/SteelRule";
import { BalanceDiagram } from "./BalanceDiagram";
import { BeddingCurve } from "./BeddingCurve";
import { CompareTraces } from "./CompareTraces";
import { DutyTrace } from "./DutyTrace";
import { FitLadder } from "./FitLadder";
import { FrictionCurves, spread } from "./FrictionCurves";
import { timeTicks } from "./frame";
import { HeatLadder, type LadderAxle, type LadderColumn } from "./HeatLadder";
import { SideView } from "./SideView";
import { WheelSection } from "./WheelSection";

const axle = (peak_C: number): LadderAxle => ({
  peak_C,
  window_low_C: 200,
  window_high_C: 600,
  pad_limit_C: 700,
  rotor_limit_C: 740,
  profile: [0.1, 0.2, 0.7],
});
const columns: LadderColumn[] = [
  { key: "a", name: "Fellmark", front: axle(618), rear: axle(440), rejected: false },
  { key: "b", name: "Burnside", front: axle(760), rear: axle(510), rejected: true },
];
const fluid = { now_C: 161, boiling_C: 245, dry_C: 312, wet_C: 205 };

function ladder(system: "metric" | "imperial" = "metric") {
  const onSelect = vi.fn();
  const view = render(
    <HeatLadder columns={columns} fluid={fluid} selected="a" system={system} onSelect={onSelect} />,
  );
  return { onSelect, svg: view.container.querySelector("svg") as SVGSVGElement };
}

it("says every candidate in words, chosen and rejected too", () => {
  ladder();
  const [first, second] = screen.getAllByRole("button");
  expect(first?.getAttribute("aria-label")).toContain(
    "Fellmark: front peak 618, window 200 to 600; rear peak 440",
  );
  expect(first?.getAttribute("aria-pressed")).toBe("true");
  expect(second?.getAttribute("aria-label")).toContain("rejected");
  expect(screen.getByRole("group").getAttribute("aria-label")).toContain(
    "fluid of the chosen set 161, boils at 245",
  );
});

it("chooses by click and by keyboard", async () => {
  const { onSelect } = ladder();
  await userEvent.click(screen.getAllByRole("button")[1] as Element);
  expect(onSelect).toHaveBeenLastCalledWith("b");
  fireEvent.keyDown(screen.getAllByRole("button")[0] as Element, { key: "Enter" });
  expect(onSelect).toHaveBeenLastCalledWith("a");
  fireEvent.keyDown(screen.getAllByRole("button")[0] as Element, { key: "x" });
  expect(onSelect).toHaveBeenCalledTimes(2);
});

it("places peaks to scale: 100 K apart is one line of the axis", () => {
  const { svg } = ladder();
  const place = (text: string) =>
    Number([...svg.querySelectorAll("text")].find((t) => t.textContent === text)?.getAttribute("y"));
  const perHundred = place("200") - place("300");
  expect(perHundred).toBeGreaterThan(10);
  expect((place("440") - place("618")) / perHundred).toBeCloseTo(1.78, 2);
});

it("marks a peak over its limit in the colour of over, beside its place above the frame", () => {
  const { svg } = ladder();
  const colour = (text: string) =>
    [...svg.querySelectorAll("text")].find((t) => t.textContent === text)?.style.fill;
  expect(colour("760")).toBe("var(--over)");
  expect(colour("618")).toBe("");
});

it("turns with the units", () => {
  ladder("imperial");
  expect(screen.getAllByRole("button")[0]?.getAttribute("aria-label")).toContain("front peak 1144");
  // Round figures of the axis, each at its own height.
  const marks = temperatureMarks(1000, "imperial");
  expect(marks.map(({ text }) => text)).toEqual(
    [200, 400, 600, 800, 1000, 1200, 1400, 1600, 1800].map(String),
  );
  expect(marks[0]?.at_C).toBeCloseTo((200 - 32) / 1.8, 9);
  expect(temperatureMarks(900, "metric").at(-1)).toEqual({ at_C: 900, text: "900" });
});

it("gives time axes round minutes", () => {
  expect(timeTicks(45)).toEqual([0, 10, 20, 30, 40]);
  expect(timeTicks(1370)).toEqual([0, 300, 600, 900, 1200]);
  expect(timeTicks(100_000).length).toBeLessThan(16);
});

it("draws a duty with its units, and nothing past the time asked for", () => {
  const trace = {
    t_s: [0, 10, 20, 30],
    v_mps: [10, 30, 30, 5],
    brake_power_W: [0, 0, 90_000, 0],
    front_surface_C: [20, 20, 200, 150],
    rear_surface_C: [20, 20, 120, 100],
  };
  const { container, rerender } = render(<DutyTrace trace={trace} until={30} system="metric" />);
  expect(screen.getByText("speed, km/h")).toBeTruthy();
  expect(container.textContent).not.toContain("NaN");
  const whole = container.querySelectorAll("path")[1]?.getAttribute("d")?.split("L").length;
  rerender(<DutyTrace trace={trace} until={20} system="imperial" />);
  expect(screen.getByText("speed, mph")).toBeTruthy();
  expect(whole).toBe(4);
  expect(container.querySelectorAll("path")[1]?.getAttribute("d")?.split("L").length).toBe(3);
});

it("names what locks first in the balance diagram, or nothing when no axle does", () => {
  const curve = [0, 0.3, 0.6, 0.9].map((z) => ({
    decel_g: z,
    front_installed: 0.7 * z,
    rear_installed: 0.3 * z,
    front_ideal: 0.6 * z + 0.2 * z * z,
    rear_ideal: 0.4 * z - 0.2 * z * z,
  }));
  const now = { front: 0.3, rear: 0.1, decel_g: 0.4 };
  const lock = (first_axle: string, front_lock_g: number | null, rear_lock_g: number | null) => ({
    first_axle,
    decel_g: Math.min(front_lock_g ?? 9, rear_lock_g ?? 9),
    front_lock_g,
    rear_lock_g,
  });
  const wet = lock("rear", null, 0.3);
  const common = { curve, now, hot: curve, grip: 0.9 };
  const { rerender, container } = render(
    <BalanceDiagram {...common} dry={lock("rear", 0.9, 0.6)} wet={wet} />,
  );
  expect(screen.getByText("dry: rear, 0.60 g")).toBeTruthy();
  expect(screen.getByText("wet: rear, 0.30 g")).toBeTruthy();
  const paths = container.querySelectorAll("path").length;
  rerender(<BalanceDiagram {...common} hot={[]} dry={lock("none", null, null)} wet={wet} />);
  expect(screen.queryByText(/dry:/)).toBeNull();
  // No hot line, no cross and no plus for the dry road.
  expect(container.querySelectorAll("path").length).toBe(paths - 3);
});

it("draws the side view to the machine's own scale", () => {
  const common = {
    kind: "car",
    cg_height_m: 0.5,
    front_fraction: 0.6,
    front_load_N: 6000,
    rear_load_N: 3000,
    decel_g: 0.5,
  };
  const wheels = (wheelbase_m: number, radius: number) => {
    const { container } = render(
      <SideView
        {...common}
        wheelbase_m={wheelbase_m}
        radius_front_m={radius}
        radius_rear_m={radius}
        hitch={null}
        loadText={(n) => `${n} N`}
      />,
    );
    const [rear, front] = [...container.querySelectorAll("circle")];
    const ratio =
      (Number(front?.getAttribute("cx")) - Number(rear?.getAttribute("cx"))) /
      Number(rear?.getAttribute("r"));
    cleanup();
    return ratio;
  };
  expect(wheels(2.5, 0.3)).toBeCloseTo(2.5 / 0.3, 6);
  expect(wheels(3.1, 0.392)).toBeCloseTo(3.1 / 0.392, 6);
});

it("draws the trailer on its coupling, with its push and its nose load", () => {
  const hitch = { height_m: 0.45, overhang_m: 1.1, push_N: 2500, nose_N: 900 };
  const { container } = render(
    <SideView
      kind="truck"
      wheelbase_m={2.85}
      cg_height_m={0.72}
      front_fraction={0.53}
      radius_front_m={0.365}
      radius_rear_m={0.365}
      front_load_N={15000}
      rear_load_N={9000}
      decel_g={0.4}
      hitch={hitch}
      loadText={(n) => `${n} N`}
    />,
  );
  expect(screen.getByText("trailer pushes 2500 N, nose load 900 N")).toBeTruthy();
  const [trailer, ball, rear, front] = [...container.querySelectorAll("circle")].map((entry) => ({
    x: Number(entry.getAttribute("cx")),
    y: Number(entry.getAttribute("cy")),
  }));
  const scale = ((front?.x ?? 0) - (rear?.x ?? 0)) / 2.85;
  expect(((rear?.x ?? 0) - (ball?.x ?? 0)) / scale).toBeCloseTo(1.1, 6);
  expect((148 - (ball?.y ?? 0)) / scale).toBeCloseTo(0.45, 6);
  expect(trailer?.x).toBeGreaterThan(0);
});

it("frames the bedding window and says it", () => {
  render(
    <BeddingCurve
      t_s={[0, 60, 120]}
      front={[20, 250, 300]}
      rear={[20, 150, 180]}
      low={200}
      high={400}
      system="metric"
    />,
  );
  expect(screen.getByRole("img").getAttribute("aria-label")).toContain("bedding window 200 to 400");
});

it("keeps a steel rule inside its length", () => {
  const { container } = render(<SteelRule fill={1.7} notch={-0.2} state="over" band={[0.2, 0.5]} />);
  const widths = [...container.querySelectorAll<HTMLElement>("[style]")].map((part) => part.style);
  expect(widths[0]?.width).toBe("100%");
  expect(widths[1]?.left).toBe("20%");
  expect(widths.at(-1)?.left).toBe("0%");
});

it("draws a disc between its pads to scale, thin side where it is", () => {
  const props = { rotorNew_m: 0.02, rotor_m: 0.019, padNew_m: 0.01, change_m: 0.003, mirrored: true };
  const { container, rerender } = render(<WheelSection {...props} inner_m={0.004} outer_m={0.008} />);
  const widths = () =>
    [...container.querySelectorAll("rect")].map((rect) => Number(rect.getAttribute("width")));
  const [rotor, outer, , inner] = widths() as [number, number, number, number];
  // 19 mm of rotor, 8 and 4 mm of pad: the same scale for all. Mirrored, the outer pad is drawn first, on the left.
  expect(outer / rotor).toBeCloseTo(8 / 19, 6);
  expect(inner / rotor).toBeCloseTo(4 / 19, 6);
  rerender(<WheelSection {...props} inner_m={null} outer_m={0.008} />);
  expect(container.querySelectorAll("rect[stroke-dasharray]")).toHaveLength(2);
});

it("puts a reading, the model before and the fit on one axis", () => {
  const reading = {
    kind: "pyrometer",
    axle: "front",
    measured_C: 300,
    before_C: 350,
    after_C: 305,
    suspect: false,
  };
  const { container } = render(
    <FitLadder readings={[reading, { ...reading, kind: "at_least", suspect: true }]} system="metric" />,
  );
  const middle = (rect: Element) => Number(rect.getAttribute("y")) + 5;
  const [, before, after] = [...container.querySelectorAll("rect")];
  expect(middle(before as Element)).toBeLessThan(middle(after as Element));
  // A bound has its arrow, and a reading that does not fit its mark.
  expect(container.querySelectorAll("path")).toHaveLength(1);
  screen.getByText("▲ front");
});

const curve = (name: string, mu: number) => ({
  name,
  window_C: [150, 350] as [number, number],
  points: [
    { temperature_C: 100, mu, provenance: "measured" },
    { temperature_C: 300, mu: mu + 0.1, provenance: "maker" },
    { temperature_C: 500, mu: mu - 0.1, provenance: "estimate" },
  ],
});

it("lays friction curves over each other, bold inside each window", () => {
  const one = curve("Fellmark", 0.4);
  const { container } = render(<FrictionCurves curves={[one, curve("Burnside", 0.4)]} system="imperial" />);
  expect(screen.getByRole("img").getAttribute("aria-label")).toContain("Fellmark: 0.4 at 212, 0.5 at 572");
  // Two curves on each other keep two names and two dashes.
  const names = [...container.querySelectorAll("text")].filter((node) =>
    /Fellmark|Burnside/.test(node.textContent ?? ""),
  );
  const heights = names.map((node) => Number(node.getAttribute("y")));
  expect(Math.abs((heights[0] ?? 0) - (heights[1] ?? 0))).toBeGreaterThanOrEqual(15);
  const lines = [...container.querySelectorAll("path")];
  expect(new Set(lines.map((node) => node.getAttribute("stroke-dasharray"))).size).toBe(2);
  expect(lines.filter((node) => node.getAttribute("clip-path"))).toHaveLength(2);
});

it("moves labels apart without pushing them below the axis", () => {
  expect(spread([100, 104, 50])).toEqual([100, 115, 50]);
  const crowded = spread([260, 262, 263]);
  expect(Math.max(...crowded)).toBeLessThanOrEqual(264);
  expect(
    [...crowded].sort((a, b) => a - b).every((y, i, all) => i === 0 || y - (all[i - 1] ?? 0) >= 15),
  ).toBe(true);
});

it("leads one cursor through all sets, by keys, from where the first is hottest", async () => {
  const t_s = [0, 10, 20, 30, 40];
  const traces = [
    { name: "Fellmark", values: [20, 300, 628, 500, 400] },
    { name: "Burnside", values: [20, 310, 700, 520, 390] },
  ];
  const props = { t_s, traces, label: "Ring face, front", quantity: "temperature" as const };
  const { rerender } = render(<CompareTraces {...props} system="metric" />);
  const cursor = screen.getByRole("slider");
  const said = () => cursor.getAttribute("aria-valuetext");
  expect(said()).toBe("0:20: Fellmark 628 °C, Burnside 700 °C");
  cursor.focus();
  await userEvent.keyboard("{ArrowRight}");
  expect(said()).toBe("0:30: Fellmark 500 °C, Burnside 520 °C");
  // At either end it stays.
  await userEvent.keyboard("{End}{ArrowRight}");
  expect(said()).toBe("0:40: Fellmark 400 °C, Burnside 390 °C");
  await userEvent.keyboard("{Home}{ArrowLeft}");
  expect(said()).toBe("0:00: Fellmark 20 °C, Burnside 20 °C");
  rerender(<CompareTraces {...props} system="imperial" />);
  expect(said()).toBe("0:00: Fellmark 68 °F, Burnside 68 °F");
  rerender(
    <CompareTraces
      {...props}
      quantity="mu"
      traces={[{ name: "A", values: [0.3, 0.4, 0.5, 0.4, 0.3] }]}
      system="metric"
    />,
  );
  expect(said()).toBe("0:00: A 0.30");
});

it("says of traces that there is nothing hot in them yet", () => {
  const flat = [{ name: "Fellmark", values: [0, 0] }];
  render(<CompareTraces t_s={[0, 5]} traces={flat} label="Pedal force" quantity="force" system="metric" />);
  expect(screen.getByRole("slider").getAttribute("aria-valuetext")).toBe("0:00: Fellmark 0 N");
  expect(screen.getByRole("img").getAttribute("aria-label")).toBe("Pedal force of Fellmark");
});

it("draws only the columns in sight of a ladder of two hundred, and a moment in them", () => {
  const many = Array.from({ length: 200 }, (_, i) => ({ ...columns[0], key: String(i) }) as LadderColumn);
  const moment = new Map([["100", { front_C: 333, rear_C: 222, fluid_C: 44 }]]);
  const view = render(
    <HeatLadder
      columns={many}
      fluid={fluid}
      selected="100"
      system="metric"
      onSelect={() => undefined}
      width={790}
      shift={15_000}
      moment={moment}
    />,
  );
  const drawn = screen.getAllByRole("button").length;
  expect(drawn).toBeGreaterThanOrEqual(5);
  expect(drawn).toBeLessThan(8);
  expect(view.container.querySelectorAll("[data-now]")).toHaveLength(3);
  expect(view.container.textContent).toContain("333");
});
