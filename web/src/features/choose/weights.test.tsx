import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { presetOf, WeightSliders } from "./sliders";

const weights = (changes: Partial<Schemas["WeightsIO"]> = {}): Schemas["WeightsIO"] => ({
  heat_margin: 5,
  cold_bite: 2,
  pedal: 2,
  pad_life: 3,
  quiet: 1,
  clean_wheels: 0,
  rotor_wear: 1,
  cost: 3,
  ...changes,
});
const presets = { track: weights(), street: weights({ quiet: 5, clean_wheels: 4 }) };

it("starts from what suits a kind of user, and knows weights that are one's own", async () => {
  const onCommit = vi.fn();
  render(<WeightSliders weights={presets.track} presets={presets} onCommit={onCommit} />);
  const start = screen.getByRole<HTMLSelectElement>("combobox", { name: "Start from what suits" });
  expect(start.value).toBe("track");
  await userEvent.selectOptions(start, "quiet streets, clean wheels");
  expect(onCommit).toHaveBeenCalledWith(presets.street);
  expect(presetOf(weights({ rotor_wear: 4 }), presets)).toBe("");
});

it("commits one moved weight with the others as they are", async () => {
  const onCommit = vi.fn();
  render(<WeightSliders weights={presets.track} presets={presets} onCommit={onCommit} />);
  const slider = screen.getByRole("slider", { name: "Sparing rotors" });
  slider.focus();
  await userEvent.keyboard("{ArrowRight}");
  expect(onCommit).toHaveBeenCalledWith(weights({ rotor_wear: 2 }));
});
