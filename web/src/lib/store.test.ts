// @vitest-environment jsdom
import { afterEach, expect, it, vi } from "vitest";
import { clearDrafts, createDraft, createStore, draftsWaiting, setPerson } from "./store";
import { temperatureColour } from "./temperature";
import {
  changeIn,
  clockText,
  dateText,
  eventsText,
  fieldText,
  fieldValueText,
  hoursText,
  twoFiguresText,
} from "./text";

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

it("keeps a draft for the one who typed it, and takes it off the device when they sign out", async () => {
  const draft = createDraft({ owner: "" }, "adding");
  const heard = vi.fn();
  draft.subscribe(heard);
  draft.set({ owner: "nobody is signed in" });
  expect(localStorage).toHaveLength(0);
  await setPerson("ada");
  expect(draft.get()).toEqual({ owner: "" });
  draft.set({ owner: "A customer of Ada's" });
  expect(draftsWaiting()).toBe(1);
  await setPerson("ben");
  expect(heard).toHaveBeenCalled();
  expect([draft.get(), draftsWaiting()]).toEqual([{ owner: "" }, 0]);
  draft.set({ owner: "A customer of Ben's" });
  // A page opened again by Ada, whose session had only run out, finds hers and not Ben's.
  await setPerson("ada");
  expect(createDraft({ owner: "" }, "adding").get()).toEqual({ owner: "A customer of Ada's" });
  await clearDrafts();
  expect([draft.get(), draftsWaiting()]).toEqual([{ owner: "" }, 0]);
  await setPerson("ben");
  expect(draft.get()).toEqual({ owner: "A customer of Ben's" });
  // Nothing is left to wait where everything is as it was.
  draft.set({ owner: "" });
  expect(draftsWaiting()).toBe(0);
  await setPerson(null);
  expect(localStorage).toHaveLength(0);
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
  expect(eventsText(2.14)).toBe("2.1 events");
  expect(eventsText(81.4)).toBe("81 events");
  expect(eventsText(99999)).toBe("no wear to speak of");
  expect([1, 0.02].map(eventsText)).toEqual(["1 event", "due now"]);
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

it("an input of Why stands in the reader's unit, to four figures", () => {
  for (const [path, value, metric, imperial] of [
    ["vehicle.mass_kg", 690, "690 kg", "1521 lb"],
    ["vehicle.cg_height_m", 0.52, "0.52 m", "1.706 ft"],
    ["vehicle.drag_area_m2", 0.62, "0.62 m²", "6.674 ft²"],
    ["front.piston_area_m2", 0.001963, "19.63 cm²", "3.043 in²"],
    ["front.rotor.thickness_m", 0.022, "22 mm", "0.8661 in"],
    ["environment.pressure_Pa", 101325, "0.1013 MPa", "14.7 psi"],
    ["front.backing_conductance_W_per_K", 6, "6 W/K", "6 W/K"],
    ["front.pad.conductivity_W_per_mK", 1.2, "1.2 W/mK", "1.2 W/mK"],
    ["front.pad.mu", 0.4321, "0.4321", "0.4321"],
  ] as const) {
    expect(fieldValueText(path, value, "metric")).toBe(metric);
    expect(fieldValueText(path, value, "imperial")).toBe(imperial);
  }
});

it("a change of Why follows the reader's units, and what has none stays as it is", () => {
  const kelvin = changeIn("K", "imperial");
  expect([kelvin.unit, kelvin.of(-20)]).toEqual(["°F", -36]);
  expect(changeIn("MPa", "imperial").of(1)).toBeCloseTo(145.04, 2);
  expect(changeIn("MPa", "metric")).toMatchObject({ unit: "MPa" });
  expect(changeIn("MPa", "metric").of(2)).toBe(2);
  const events = changeIn("events", "imperial");
  expect([events.unit, events.of(3)]).toEqual(["events", 3]);
});
