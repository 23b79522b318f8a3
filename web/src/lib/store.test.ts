// @vitest-environment jsdom
import { afterEach, expect, it, vi } from "vitest";
import { createStore } from "./store";
import { temperatureColour } from "./temperature";
import { clockText, dateText, eventsText, fieldText, hoursText, twoFiguresText } from "./text";

afterEach(() => {
  vi.restoreAllMocks();
  localStorage.clear();
});

it("keeps a value over a reload and tells its listeners", () => {
  const first = createStore("metric", "k");
  const heard = vi.fn();
  const stop = first.subscribe(heard);
  first.set("imperial");
  expect(heard).toHaveBeenCalledTimes(1);
  expect(createStore("metric", "k").get()).toBe("imperial");
  stop();
  first.set("metric");
  expect(heard).toHaveBeenCalledTimes(1);
});

it("starts from the default when storage is broken or off", () => {
  localStorage.setItem("k", "{not json");
  expect(createStore("metric", "k").get()).toBe("metric");
  vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("off", "SecurityError");
  });
  const store = createStore("metric", "k");
  store.set("imperial");
  expect(store.get()).toBe("imperial");
});

it("writes times, dates and counts as people do", () => {
  expect(clockText(125)).toBe("2:05");
  expect(hoursText(0.37)).toBe("22 min");
  expect(hoursText(9.46)).toBe("9.5 h");
  expect(hoursText(198.2)).toBe("198 h");
  expect(eventsText(2.14)).toBe("2.1");
  expect(eventsText(81.4)).toBe("81");
  expect(eventsText(99999)).toBe("no wear");
  expect(dateText("2026-11-28")).toBe("28 November 2026");
  expect(dateText(null)).toContain("ten years");
  expect(twoFiguresText(12.345)).toBe("+12");
  expect(twoFiguresText(-0.0456)).toBe("-0.046");
});

it("says fields without their path and unit", () => {
  expect(fieldText("vehicle.mass_kg")).toBe("mass");
  expect(fieldText("front.piston_area_m2")).toBe("front piston area");
  expect(fieldText("front.pad.mu")).toBe("front pad mu");
});

it("has a temperature scale that rises in lightness all the way", () => {
  const light = (at: number) => {
    const [r = 0, g = 0, b = 0] = temperatureColour(at).match(/\d+/g)?.map(Number) ?? [];
    return 0.2126 * r + 0.7152 * g + 0.0722 * b;
  };
  const steps = Array.from({ length: 19 }, (_, i) => light(i * 50));
  expect(steps).toEqual([...steps].sort((a, b) => a - b));
  expect(temperatureColour(2000)).toBe(temperatureColour(900));
});
