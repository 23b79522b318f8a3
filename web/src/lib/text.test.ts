import { expect, it } from "vitest";
import { dateText, decimalsOf, todayIso } from "./text";

// The tests run west of Greenwich (package.json), where a day read as a moment of UTC is the day before.
it("says the day that was meant, west of Greenwich too", () => {
  expect(new Date(2026, 0, 1).getTimezoneOffset()).toBeGreaterThan(0);
  expect(dateText("2026-03-14")).toBe("14 March 2026");
  expect(dateText("2026-03-14T23:30:00Z")).toBe("14 March 2026");
  expect(dateText("2026-03-14T03:30:00Z")).toBe("13 March 2026");
  expect(dateText(null)).toBe("more than ten years away");
});

it("gives today as the API takes it", () => {
  const now = new Date();
  expect(todayIso()).toBe(
    [now.getFullYear(), now.getMonth() + 1, now.getDate()]
      .map((part) => String(part).padStart(2, "0"))
      .join("-"),
  );
});

it("shows a figure with as many decimals as its range has", () => {
  const shown = ([low, at, high]: number[]) =>
    [low, at, high].map((value) => value?.toFixed(decimalsOf((high ?? 0) - (low ?? 0)))).join(" ");
  expect(shown([0.1257, 0.1733, 0.2388])).toBe("0.13 0.17 0.24");
  expect(shown([0.0035, 0.0052, 0.0078])).toBe("0.004 0.005 0.008");
  expect(shown([3.21, 5.18, 7.9])).toBe("3.2 5.2 7.9");
  expect(shown([0.08, 0.08, 0.08])).toBe("0.08 0.08 0.08");
});
