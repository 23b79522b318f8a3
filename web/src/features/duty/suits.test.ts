import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { sorted } from "./suits";

type Duty = Schemas["DutyOut"];
const uses: Duty["use"][] = ["street", "tow", "delivery", "track", "hill"];
const duties = uses.map((use, id) => ({ id, use }) as Duty);
const near = (kind: string, towing: boolean, inForce: number | null = null) =>
  sorted(duties, { kind, towing }, inForce)[0].map((row) => row.use);

it("puts a machine's own and its kind's duties first", () => {
  expect(near("motorcycle", false)).toEqual(["street", "track", "hill"]);
  expect(near("truck", false)).toEqual(["street", "tow", "delivery"]);
  expect(near("car", true)).toEqual(["street", "tow", "track", "hill"]);
  // Whatever it is, the one in force is not hidden.
  expect(near("car", false, 2)).toEqual(["street", "delivery", "track", "hill"]);
  for (const kind of ["car", "truck", "motorcycle"]) {
    const [first, rest] = sorted(duties, { kind, towing: false }, null);
    expect([...first, ...rest].length).toBe(duties.length);
  }
});
