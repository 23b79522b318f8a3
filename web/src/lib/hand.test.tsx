import { act, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it } from "vitest";
import { useHand } from "./hand";

const answers: { done: () => void; refuse: () => void }[] = [];
const ask = () => new Promise<void>((done, refuse) => answers.push({ done, refuse }));

function Tick() {
  const [wanted, want] = useHand<boolean>();
  return (
    <input
      type="checkbox"
      checked={wanted ?? false}
      onChange={(event) => want(event.target.checked, ask())}
    />
  );
}

it("shows what the hand picked until its own answer is in, refused ones too", async () => {
  render(<Tick />);
  const box = screen.getByRole<HTMLInputElement>("checkbox");
  await userEvent.click(box);
  await userEvent.click(box);
  await userEvent.click(box);
  expect(box.checked).toBe(true);
  // Answers to what was picked before change nothing.
  await act(async () => answers[0]?.done());
  await act(async () => answers[1]?.refuse());
  expect(box.checked).toBe(true);
  await act(async () => answers[2]?.refuse());
  expect(box.checked).toBe(false);
});
