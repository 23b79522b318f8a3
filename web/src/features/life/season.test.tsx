import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { chanceText, type SeasonPart, SeasonRules } from "../../charts/SeasonRules";
import { whenText } from "./when";

const events = [
  { key: "1", name: "Relay, round 1", on: "2027-01-09" },
  { key: "2", name: "Relay, round 2", on: "2027-02-06" },
];
const part = (changes: Partial<SeasonPart>): SeasonPart => ({
  key: "pads-front-1",
  label: "Front pads",
  under: "Fellmark R2, 4.5 to 3.0 mm",
  word: "survives the season",
  state: "fine",
  low: 1.2,
  high: 2,
  chances: [0.999, 0.63],
  words: ["survives", "take spares"],
  ...changes,
});

it("says a likelihood no finer than its draws can tell", () => {
  expect([1, 0.9996, 0.954, 0.5, 0.004, 0].map(chanceText)).toEqual([">99", ">99", "95", "50", "<1", "<1"]);
});

it("has a word for every event besides mark and colour, and opens a part", async () => {
  const onOpen = vi.fn();
  render(<SeasonRules events={events} parts={[part({})]} onOpen={onOpen} />);
  screen.getByText(/through Relay, round 1: survives/);
  screen.getByText(/through Relay, round 2: take spares/);
  await userEvent.click(screen.getByRole("button", { name: /Front pads/ }));
  expect(onOpen).toHaveBeenCalledWith("pads-front-1");
});

it("shows a set that is on for none of them as not on, not as lasting", () => {
  const idle = part({ key: "b", label: "Rear pads", chances: [null, null], words: [null, null] });
  const { container } = render(<SeasonRules events={events} parts={[idle]} onOpen={() => undefined} />);
  expect(screen.getAllByText("not on")).toHaveLength(2);
  expect(container.querySelector(".bg-fine")).toBeNull();
});

it("says when an event is: a day, several, with its clock", () => {
  const event = (changes: Partial<Schemas["EventOut"]>) =>
    ({ on: "2027-01-09", until_on: null, starts_at: null, ends_at: null, ...changes }) as Schemas["EventOut"];
  expect(whenText(event({}))).toBe("9 January 2027");
  expect(whenText(event({ until_on: "2027-01-10" }))).toBe("9 January 2027 to 10 January 2027");
  expect(whenText(event({ starts_at: "09:30:00", ends_at: "17:00:00" }))).toBe("9 January 2027, 09:30–17:00");
  expect(whenText(event({ starts_at: "09:30:00" }))).toBe("9 January 2027, 09:30");
});
