import { cleanup, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, it } from "vitest";
import { verbatim } from "../../lib/said";
import { draw } from "../../testing/page.test.helper";
import { noWhatIf, whatIfStore } from "../whatif";
import { whyStore } from "./queries";
import { Why } from "./Why";
import { WhyDrawer } from "./WhyDrawer";

beforeEach(() => {
  whyStore.set(null);
  whatIfStore.set({});
});

const said = {
  name: "torque_front",
  title: "Torque of one front rotor",
  formula: "T = 2 μ(T) p A_p η_c r_e",
  numbers: verbatim("2 × 0.400 × 1000 N × 0.1080 m = 86 N m"),
  unit: "N m",
  source: "Limpert 1999, ch. 2",
  inputs: [
    { field: "front.piston_area_m2", value: 0.001963, change: 8.6, estimate: false },
    { field: "front.pad.mu", value: 0.4, change: 8.6, estimate: true },
  ],
  assumptions: [],
  energy: {},
};

it("opens a number of whichever set and pedal it belongs to, with links to its inputs", async () => {
  whatIfStore.set({ 3: { ...noWhatIf, extra_mass_kg: 40 } });
  const asked = draw(
    <>
      <Why topic="torque_front" of="1-2-3-4" mixed pedal_force_N={120}>
        86 N m
      </Why>
      <WhyDrawer machineId={3} />
    </>,
    { "POST /api/machines/3/why/torque_front": said },
  );
  await userEvent.click(screen.getByRole("button", { name: "86 N m Why?" }));
  expect(await screen.findByText(said.numbers.values.text as string)).toBeTruthy();
  expect(asked[0]?.body).toEqual({
    ...noWhatIf,
    extra_mass_kg: 40,
    key: "1-2-3-4",
    mixed: true,
    pedal_force_N: 120,
  });
  expect(screen.queryByText(/Where the energy went/)).toBeNull();
  expect(screen.queryByRole("region", { name: "How sure" })).toBeNull();
  const links = screen.getAllByRole("link").map((link) => [link.textContent, link.getAttribute("href")]);
  expect(links).toEqual([
    ["front piston area", "/m/3/machine?field=front.piston_area_m2"],
    ["front pad mu", "/catalogue"],
    ["How far to trust it", "/trust"],
  ]);
  await userEvent.click(screen.getAllByRole("link")[0] as HTMLElement);
  expect(whyStore.get()).toBeNull();
  expect(screen.queryByRole("dialog")).toBeNull();

  // A chance has no input to move: the estimates it hangs on stand there instead.
  cleanup();
  const decided_by = [{ field: "front.cooling_factor", variance_share: 0.71 }];
  const chance = { ...said, name: "chance", inputs: [], decided_by };
  draw(<WhyDrawer machineId={3} />, { "POST /api/machines/3/why/chance": chance });
  whyStore.set({ topic: "chance", key: "1-2-3-4" });
  const shares = await screen.findByRole("table", {
    name: "Share of the way to the nearest limit each estimate explains",
  });
  expect(shares.textContent).toMatch(/explains.*front cooling factor71 %$/);
  expect(screen.queryByText("If an input is 10 % greater")).toBeNull();
});
