import { expect, it } from "vitest";
import { groups } from "./fields";
import { type Input, type Method, methodOf, methods, numbersOf } from "./methods";

const fields = groups.flatMap((group) => group.fields);

it("finds a method for the fields that have one, and sends its values to fields there are", () => {
  const paths = new Set(fields.map((field) => field.path));
  const found = fields.map((field) => methodOf(field.path)).filter((entry) => entry !== null);
  expect(new Set(found.map((entry) => entry.method.name))).toEqual(new Set(Object.keys(methods)));
  for (const { goesTo } of found) for (const path of Object.values(goesTo)) expect(paths).toContain(path);
  expect(methodOf("vehicle.drag_area_m2")).toBeNull();
});

it("tells how in three lines, whatever the method", () => {
  for (const method of Object.values<Method>(methods)) expect(method.how).toHaveLength(3);
});

it("asks the server only when all that is needed is there", () => {
  expect(numbersOf(methods.pistons, { first_m: null })).toBeNull();
  expect(numbersOf(methods.pistons, { first_m: 0.038, second_m: null })).toEqual({ first_m: 0.038 });
  expect(numbersOf(methods.roll_out, { distance_m: 5.6 })).toBeNull();
});

it("starts a weighed rotor from the rotor of its own axle", () => {
  const found = methodOf("rear.rotor.gap_m");
  const diameter = found?.method.inputs.find((input) => input.name === "outer_radius_m");
  expect(diameter?.start?.({ "front.rotor.outer_radius_m": 0.16, "rear.rotor.outer_radius_m": 0.14 })).toBe(
    0.14,
  );
});

it("starts a lift from what the machine says already", () => {
  const values = { "vehicle.mass_kg": 1000, "vehicle.front_fraction": 0.6, "vehicle.wheelbase_m": 2.5 };
  const starts = Object.fromEntries(
    methods.lifted_axle.inputs.map((input: Input) => [input.name, input.start?.(values) ?? null]),
  );
  expect(starts).toMatchObject({ mass_kg: 1000, level_kg: 600, wheelbase_m: 2.5, wheel_radius_m: null });
});
