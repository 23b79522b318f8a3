import { describe, expect, it } from "vitest";
import { figure, kinds, parse, type Quantity, shownRange, withUnit } from "./units";

const si = (text: string, quantity: Quantity, system: "metric" | "imperial" = "metric") => {
  const parsed = parse(text, quantity, system);
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.value;
};

describe("typed values", () => {
  it.each([
    ["11 mm", 0.011],
    ["11", 0.011],
    ["0.43 in", 0.010922],
    ["9/32 in", 0.00714375],
    ["1 1/8 in", 0.028575],
    ["1,1 cm", 0.011],
    [".5", 0.0005],
    [" 11MM ", 0.011],
  ])("reads %s as %f m", (text, metres) => {
    expect(si(text, "thickness")).toBeCloseTo(metres, 7);
  });

  it("takes a bare number in the user's own unit", () => {
    expect(si("0.5", "thickness", "imperial")).toBeCloseTo(0.0127, 6);
    expect(si("212", "temperature", "imperial")).toBeCloseTo(100, 9);
    expect(si("212 °F", "temperature")).toBeCloseTo(100, 9);
    expect(si("100 degC", "temperature", "imperial")).toBeCloseTo(100, 9);
    expect(si("60 mph", "speed")).toBeCloseTo(26.8224, 3);
    expect(si("47 %", "percent")).toBeCloseTo(0.47, 9);
    expect(si("2 years", "months")).toBeCloseTo(24, 9);
  });

  it.each([
    ["12,345 mi", "distance", "imperial", 19867.4],
    ["12 345", "distance", "metric", 12345],
    ["12\u202f345 km", "distance", "metric", 12345],
    ["1,234,567", "distance", "metric", 1234567],
    ["1,250 kg", "mass", "metric", 1250],
    ["0,345 kg", "mass", "metric", 0.345],
    ["12,5", "distance", "metric", 12.5],
    ["1,234.5 mm", "thickness", "metric", 1.2345],
  ] as const)("tells thousands from decimals in %s", (text, quantity, system, expected) => {
    expect(si(text, quantity, system)).toBeCloseTo(expected, 1);
    expect(si(text, quantity, system) / expected).toBeCloseTo(1, 4);
  });

  it.each([
    ["1,080", "thickness", ".", [1.08, 0.00108]],
    ["1.080 mm", "thickness", ",", [1.08, 0.00108]],
    ["1.080", "mass", ".", [1080, 1.08]],
    ["9,525 mm", "thickness", ".", [9.525, 0.009525]],
  ] as const)(
    "asks which of two ways %s is meant, where the mark is not the reader's",
    (text, quantity, mark, two) => {
      const parsed = parse(text, quantity, "metric", mark);
      expect(parsed).toMatchObject({ ok: false, message: expect.stringContaining("two ways") });
      if (!parsed.ok)
        for (const index of [0, 1] as const) expect(parsed.either?.[index]).toBeCloseTo(two[index], 9);
    },
  );

  it.each([
    ["1.080 mm", ".", 0.00108],
    ["1,080 mm", ",", 0.00108],
    ["1.234,5 mm", ",", 1.2345],
    ["1'234.5 mm", ".", 1.2345],
    ["\u22121.5", ".", -0.0015],
  ] as const)("reads %s by the mark of the reader's place", (text, mark, expected) => {
    const parsed = parse(text, "thickness", "metric", mark);
    expect(parsed.ok && parsed.value).toBeCloseTo(expected, 9);
  });

  it.each(["1,08,0", "1.2,345", "1,2345.6", "5'10", "1.080.50"])(
    "refuses %j, which is no number anywhere",
    (text) => {
      for (const mark of [".", ","] as const) expect(parse(text, "length", "imperial", mark).ok).toBe(false);
    },
  );

  it.each(["", "thick", "1.2.3", "5 furlongs", "1/0 in", "--4", "12 kg"])(
    "refuses %j and says what is allowed",
    (text) => {
      const parsed = parse(text, "thickness", "metric");
      expect(parsed.ok).toBe(false);
      if (!parsed.ok) expect(parsed.message).toContain("mm");
    },
  );

  it("reads back what it shows, for every quantity and both systems", () => {
    for (const quantity of Object.keys(kinds) as Quantity[]) {
      for (const system of ["metric", "imperial"] as const) {
        const { factor, offset = 0 } = kinds[quantity][system] as { factor: number; offset?: number };
        for (const shown of [0.4, 17, 333]) {
          const text = figure((shown - offset) / factor, quantity, system, 9);
          expect(si(text, quantity, system) * factor + offset).toBeCloseTo(shown, 3);
        }
      }
    }
  });
});

describe("shown values", () => {
  it("has its unit and the digits that make sense", () => {
    expect(withUnit(0.0095, "thickness", "metric")).toBe("9.5 mm");
    expect(withUnit(618.4, "temperature", "metric")).toBe("618 °C");
    expect(withUnit(100, "temperature", "imperial")).toBe("212 °F");
    expect(withUnit(837, "torque", "imperial")).toBe("617 lbf ft");
  });

  it("shows a temperature change without the offset of the scale", () => {
    expect(figure(-38, "temperatureChange", "imperial")).toBe("-68");
  });

  it("tells thousands of an odometer apart", () => {
    expect(withUnit(143700, "distance", "metric")).toBe("143\u202f700 km");
    expect(withUnit(8412, "distance", "metric")).toBe("8412 km");
    expect(figure(12345.6, "distance", "metric", 1)).toBe("12\u202f345.6");
  });

  it("never shows minus nothing", () => {
    expect(figure(-0.2, "force", "metric")).toBe("0");
  });

  it("gives axes their range in the user's unit", () => {
    expect(shownRange([0, 100], "temperature", "imperial")).toEqual([32, 212]);
    expect(shownRange([0, 50], "speed", "metric")).toEqual([0, 180]);
  });
});
