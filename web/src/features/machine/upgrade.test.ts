import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { aboutText, fieldsFor, typedOnly } from "./adding";
import { fieldOf } from "./fields";
import { firstRows, together } from "./Masses";
import { movesText } from "./moves";
import { rows } from "./upgrade";

const lock = {
  first_axle: "front" as const,
  decel_g: 0.9,
  front_lock_g: 0.9,
  rear_lock_g: null,
  best_possible_g: 1,
};
const side: Schemas["SetupFiguresOut"] = {
  front_torque_Nm: 600,
  rear_torque_Nm: 200,
  decel_g: 0.7,
  front_share: 0.75,
  pedal_for_wanted_N: 240,
  fluid_m3: 3e-6,
  pedal_travel_m: 0.04,
  dry: lock,
  wet: { ...lock, decel_g: 0.5 },
  front_room_m: 0.006,
  rear_room_m: null,
  front_peak_C: 500,
  rear_peak_C: 300,
  pedal_left_N: 100,
};

describe("the table of two set-ups", () => {
  it("gives every figure with its unit and the change with its sign", () => {
    const after = {
      ...side,
      front_torque_Nm: 690,
      pedal_for_wanted_N: null,
      front_peak_C: 480,
      dry: { ...lock, first_axle: "rear" as const },
    };
    const table = Object.fromEntries(
      rows({ before: side, after, remarks: [] }, "metric").map((row) => [row.name, row]),
    );
    expect(table["Torque, one front rotor"]).toMatchObject({
      before: "600 N m",
      after: "690 N m",
      change: "+90",
    });
    expect(table["Pedal force for 0.8 g"]).toMatchObject({ after: "not reached", change: "" });
    expect(table["First to lock, dry"]).toMatchObject({ after: "rear, 0.90 g", change: "changed" });
    // What is not known has no row.
    expect(table["Caliper to wheel, rear"]).toBeUndefined();
    const imperial = rows({ before: side, after, remarks: [] }, "imperial");
    // 20 K cooler is 36 °F cooler, wherever the scale begins.
    expect(imperial.find((row) => row.name.startsWith("Front ring"))?.change).toBe("-36");
  });
});

describe("masses in parts", () => {
  it("starts from the machine as it is and adds up to it", () => {
    const sum = together(firstRows(690, 0.47).map((mass) => ({ ...mass, mass_kg: mass.mass_kg })));
    expect(sum?.mass_kg).toBeCloseTo(690);
    expect(sum?.front).toBeCloseTo(0.47, 3);
  });
  it("counts only rows that are complete", () => {
    expect(
      together([
        { mass_kg: 100, front_share: 0.5 },
        { mass_kg: null, front_share: 0.5 },
      ])?.mass_kg,
    ).toBe(100);
    expect(together([{ mass_kg: null, front_share: null }])).toBeNull();
  });
});

describe("what is not known", () => {
  const booster = { value: 4.5, low: 3.8, high: 5.2, source: "" };
  it("is told with its spread, rotors by diameter", () => {
    const gain = fieldOf("hydraulics.booster_gain");
    const rotor = fieldOf("front.rotor.outer_radius_m");
    if (!gain || !rotor) throw new Error("fields are missing");
    expect(aboutText(gain, booster, "metric")).toBe("by its class 3.8 to 5.2");
    expect(aboutText(rotor, { value: 0.14, low: 0.132, high: 0.148, source: "" }, "metric")).toBe(
      "by its class 260 to 300 mm",
    );
    expect(aboutText(gain, { ...booster, value: null }, "metric")).toBe("");
  });
  it("has a box only where the class has a number", () => {
    const paths = fieldsFor({ "hydraulics.booster_gain": booster }, {}).map((field) => field.path);
    expect(paths).toContain("hydraulics.booster_gain");
    expect(paths).toContain("trailer.mass_kg");
    expect(paths).not.toContain("vehicle.rider_front_share");
  });
  it("is not sent", () => {
    expect(typedOnly({ a: 1, b: null })).toEqual({ a: 1 });
  });
});

it("says how far an estimate moves the answer, and leaves out what stays put", () => {
  const move = {
    field: "front.cooling_factor",
    low: 1.2,
    high: 1.8,
    rotor_K: [31.4, -24.2],
    pedal_N: [0, 0],
    fluid_K: [-4, 3],
  };
  expect(movesText(move, "metric")).toBe("1.2 to 1.8: hottest rotor -24 to +31 K, fluid margin -4 to +3 K");
  expect(movesText({ ...move, rotor_K: [0, 0], fluid_K: [0, 0] }, "metric")).toBe(
    "1.2 to 1.8: moves nothing here",
  );
});
