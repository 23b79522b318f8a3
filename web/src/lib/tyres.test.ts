import { expect, it } from "vitest";
import { tyreOf } from "./tyres";

// Free radius by hand: rim over two, and width by aspect.
it.each([
  ["195/50 R15", 190.5 + 97.5],
  ["195/50R15", 190.5 + 97.5],
  [" 195/50 zr 15 82V ", 190.5 + 97.5],
  ["P195/50-15", 190.5 + 97.5],
  ["180/55-17", 215.9 + 99],
  ["120/70 ZR 17 (58W)", 215.9 + 84],
  ["225/75 R16C 121/120R", 203.2 + 168.75],
  ["155 R13", 165.1 + 124],
  ["31x10.5 R15", 393.7],
])("reads %s", (text, free_mm) => {
  const tyre = tyreOf(text);
  expect(tyre?.free_m).toBeCloseTo(free_mm / 1000, 6);
  // 3.05 times the diameter a turn: 97 % of the free radius.
  expect(tyre?.rolling_m).toBeCloseTo((free_mm / 1000) * 0.97085, 4);
});

it("takes a belted motorcycle tyre a little lower", () => {
  const tyre = tyreOf("130/90 B16");
  expect(tyre?.rolling_m).toBeCloseTo((0.2032 + 0.117) * 0.9613, 4);
});

it.each(["195/50", "280 mm", "0.28", "9/32 in", "195 15", "15", "", "999/99 R99", "5/50 R15"])(
  "leaves %j alone: it is no size",
  (text) => expect(tyreOf(text)).toBeNull(),
);
