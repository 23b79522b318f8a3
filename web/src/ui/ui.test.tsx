import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import { StateWord } from "./basics";
import { NumberField } from "./NumberField";

function field(changes: Partial<Extract<Parameters<typeof NumberField>[0], { onChange?: never }>> = {}) {
  const onCommit = vi.fn();
  const onPreview = vi.fn();
  const props = {
    label: "Mass",
    quantity: "mass" as const,
    value: 690,
    system: "metric" as const,
    hint: "weighbridge",
    onCommit,
    onPreview,
    ...changes,
  };
  const view = render(<NumberField {...props} />);
  const again = (next: Partial<typeof props>) => view.rerender(<NumberField {...props} {...next} />);
  return { onCommit, onPreview, again, input: screen.getByLabelText<HTMLInputElement>(/Mass/) };
}

it("previews while typing and commits once on Enter, in SI", async () => {
  const { input, onCommit, onPreview } = field();
  await userEvent.clear(input);
  await userEvent.type(input, "1500 lb");
  expect(onPreview).toHaveBeenCalledWith(1500);
  await userEvent.keyboard("{Enter}");
  expect(onCommit).toHaveBeenCalledTimes(1);
  expect(onCommit.mock.calls[0]?.[0]).toBeCloseTo(680.39, 1);
});

it("keeps what was typed when it is wrong, and says what is allowed", async () => {
  const { input, onCommit } = field();
  await userEvent.clear(input);
  await userEvent.type(input, "heavy");
  await userEvent.tab();
  expect(input.value).toBe("heavy");
  expect(input.getAttribute("aria-invalid")).toBe("true");
  expect(screen.getByText(/a number, in kg, lb/)).toBeTruthy();
  expect(onCommit).not.toHaveBeenCalled();
});

it("does not commit what did not change", async () => {
  const { input, onCommit } = field();
  await userEvent.click(input);
  await userEvent.tab();
  expect(onCommit).not.toHaveBeenCalled();
});

it("follows the units and new values from outside", () => {
  const { input, again } = field();
  expect(input.value).toBe("690");
  again({ system: "imperial" as never });
  expect(input.value).toBe("1521.19");
  again({ value: 700 });
  expect(input.value).toBe("700");
});

it("takes an empty field as none only where none is allowed", async () => {
  const { input, onCommit } = field({ nullable: true });
  await userEvent.clear(input);
  await userEvent.keyboard("{Enter}");
  expect(onCommit).toHaveBeenCalledWith(null);
  cleanup();
  const strict = field();
  await userEvent.clear(strict.input);
  await userEvent.keyboard("{Enter}");
  expect(strict.onCommit).not.toHaveBeenCalled();
});

it("marks an estimate and a refusal in words", () => {
  field({ estimate: true, refused: "Not saved: a number > 0" });
  expect(screen.getByText("estimate")).toBeTruthy();
  expect(screen.getByText(/Not saved: a number > 0/)).toBeTruthy();
});

it("never leaves a state to its colour", () => {
  render(<StateWord state="over" />);
  expect(screen.getByText("over").textContent).toBe("▲ over");
});

it("sends once what is left after Enter, refused or not, and again what is typed again", async () => {
  const { input, onCommit } = field();
  await userEvent.clear(input);
  await userEvent.type(input, "1500 lb{Enter}");
  await userEvent.tab();
  expect(onCommit).toHaveBeenCalledTimes(1);
  await userEvent.clear(input);
  await userEvent.type(input, "1500 lb");
  await userEvent.tab();
  expect(onCommit).toHaveBeenCalledTimes(2);
});
