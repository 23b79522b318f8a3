import { expect, it } from "vitest";
import { dateText, todayIso } from "./text";

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
