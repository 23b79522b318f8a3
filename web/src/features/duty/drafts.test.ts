import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import {
  type Body,
  bodyOf,
  changeBody,
  downFor,
  draftStore,
  lapsFor,
  newBody,
  setDutyDraft,
  shaped,
  type typedKinds,
  wayKm,
  withShape,
} from "./drafts";
import { doneText, guessedUses, missing, withRole } from "./runs";

const circuit: Schemas["CircuitOut"] = { id: 7, name: "Loop", closed: true, elements: [] };
const duty = (
  id: number,
  kind: Schemas["DutyOut"]["shape"]["kind"],
  use: Schemas["DutyOut"]["use"],
): Schemas["DutyOut"] => ({
  ...newBody(kind, [circuit], []),
  use,
  id,
  name: `duty ${id}`,
  circuit: null,
  run: null,
});

describe("a duty to start from", () => {
  it("has what its kind needs to be driven at once", () => {
    const of = <K extends (typeof typedKinds)[number]>(kind: K) => newBody(kind, [circuit], []).shape;
    expect(of("session").circuit_id).toBe(7);
    expect(of("session").driver_level).toBe("intermediate");
    expect(of("sections").sections).toHaveLength(1);
    expect(of("stops").stops).toHaveLength(1);
    expect(of("week").days).toBe(5);
    expect(of("descent").duration_s).toBeGreaterThan(0);
  });
  it("of a day drives there, the sessions, and home", () => {
    const body = newBody("day", [], [duty(1, "session", "track"), duty(2, "week", "street")]);
    expect(body.shape.parts.map((part) => part.duty_id)).toEqual([2, 1, 2]);
  });
  it("knows its way where it follows from what was typed", () => {
    expect(wayKm({ ...newBody("session", [circuit], []).shape, laps: 10, cool_down_laps: 1 }, 2)).toBe(22);
    expect(wayKm(newBody("sections", [], []).shape, null)).toBe(1);
    expect(wayKm(newBody("week", [], []).shape, null)).toBe(28);
    expect(wayKm(newBody("stops", [], []).shape, null)).toBeNull();
  });
  it("typed in an earlier version keeps its numbers", () => {
    const { shape, ...plain } = newBody("week", [], []);
    const flat = {
      ...plain,
      name: "mine",
      kind: "week",
      laps: 10,
      sections: [],
      week: { ...shape, town_km: 5, days: 3 },
    };
    const { body } = shaped({ duty_id: 4, body: flat as unknown as Body }) ?? { body: null };
    expect(body).toEqual({ ...plain, name: "mine", shape: { ...shape, town_km: 5, days: 3 } });
    expect(shaped({ duty_id: 4, body: body as Body })?.body).toBe(body);
    expect(shaped(undefined)).toBeNull();
  });
  it("sends a stored duty back without what only the server says", () => {
    expect(Object.keys(bodyOf(duty(3, "week", "street")))).not.toEqual(
      expect.arrayContaining(["id", "circuit", "run"]),
    );
  });
});

describe("the columns of a run", () => {
  const look: Schemas["LookOut"] = {
    kind: "csv",
    separator: ";",
    decimal: ",",
    first_line: 2,
    lines: 100,
    columns: [
      { name: "t", role: "time", unit: "ms", sample: [] },
      { name: "v", role: "speed", unit: "mph", sample: [] },
      { name: "x", role: "", unit: "", sample: [] },
    ],
    roles: {
      time: ["s", "ms"],
      speed: ["km/h", "mph"],
      distance: ["m"],
      latitude: ["deg"],
      longitude: ["deg"],
    },
  };
  it("start from the headings, and a role moves with its column", () => {
    const uses = guessedUses(look);
    expect(uses).toEqual([
      { column: 0, role: "time", unit: "ms" },
      { column: 1, role: "speed", unit: "mph" },
    ]);
    expect(withRole(uses, 2, "speed", look)).toEqual([uses[0], { column: 2, role: "speed", unit: "km/h" }]);
    expect(withRole(uses, 1, "", look)).toEqual([uses[0]]);
  });
  it("say what is still missing", () => {
    expect(missing(guessedUses(look))).toBeNull();
    expect(missing([{ column: 0, role: "time", unit: "s" }])).toContain("speed");
    expect(missing([{ column: 0, role: "speed", unit: "mph" }])).toContain("time");
    expect(
      missing([
        { column: 0, role: "distance", unit: "m" },
        { column: 1, role: "speed", unit: "mph" },
      ]),
    ).toBeNull();
  });
});

it("tells in one line what was done to a recording", () => {
  const read = {
    rows: 8000,
    rate_Hz: 10,
    noise_mps: 0.152,
    smoothing: "light",
    spikes: 0,
    gaps: 2,
    gap_s: 3.25,
  };
  expect(doneText(read as Schemas["ReadOut"])).toBe(
    "8000 rows at 10 a second · noise 0.15 m/s, smoothing light · no spikes · 2 gaps bridged, 3.3 s in all.",
  );
});

it("takes a session by minutes or km for whole laps, and a descent by its length", () => {
  const session = { ...newBody("session", [], []).shape, laps: 10, cool_down_laps: 1 };
  const lap = { km: 1.3, s: 64 };
  // 20 minutes are 18.75 laps of 64 s: 19, one of them to cool down.
  expect(lapsFor(session, lap, { s: 1200 })).toBe(18);
  expect(lapsFor(session, lap, { km: 26 })).toBe(19);
  expect(lapsFor(session, lap, { s: 1 })).toBe(1);
  const descent = newBody("descent", [], []).shape;
  const longer = { ...descent, ...downFor(descent, 6000) };
  expect(wayKm(longer, null)).toBeCloseTo(6, 9);
});

it("changes what stands by then, not what stood when an answer was asked for", () => {
  const body = newBody("session", [], []);
  setDutyDraft(7, { duty_id: null, body });
  const answered = withShape("session", { circuit_id: 4 });
  changeBody(7, null, () => ({ name: "Club day" }));
  changeBody(7, null, withShape("session", { laps: 4 }));
  changeBody(7, null, answered);
  const shape = { ...body.shape, laps: 4, circuit_id: 4 };
  expect(draftStore.get()[7]?.body).toEqual({ ...body, name: "Club day", shape });
  // An answer that comes when another duty, another kind or none is open changes nothing.
  changeBody(7, 3, answered);
  changeBody(7, null, withShape("stops", { repeat: 2 }));
  expect(draftStore.get()[7]?.body.shape).toEqual(shape);
  setDutyDraft(7, null);
  changeBody(7, null, answered);
  expect(draftStore.get()).toEqual({});
});
