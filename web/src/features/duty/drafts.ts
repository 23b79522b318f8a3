import type { Schemas } from "../../api/client";
import { createDraft } from "../../lib/store";

export type Body = Schemas["DutyIn"];
export type Kind = Body["kind"];
export type Draft = { duty_id: number | null; body: Body };

/** What every form of a duty is given: the duty, and the way to change it. */
export type FormProps = {
  body: Body;
  set: (change: Partial<Body>) => void;
  /** One lap or run as this machine drives it, once that is known. */
  lap?: Lap | null;
};

export const kindWords: Record<Kind, string> = {
  session: "circuit, sprint or hill-climb",
  descent: "steady descent",
  sections: "descent in sections",
  stops: "series of stops",
  week: "a usual week",
  recorded: "recorded run",
  day: "a whole day",
};

/** Kinds that are typed; a recorded run comes from a file. */
export const typedKinds = ["session", "sections", "descent", "stops", "week", "day"] as const;

export const useWords = [
  ["track", "track"],
  ["sprint", "sprint or autocross"],
  ["hill", "hill-climb"],
  ["tow", "towing or loaded"],
  ["street", "street"],
  ["delivery", "delivery"],
] as const;

const usual: Record<Kind, Body["use"]> = {
  session: "track",
  descent: "tow",
  sections: "tow",
  stops: "street",
  week: "street",
  recorded: "track",
  day: "track",
};

const plain: Omit<Body, "kind" | "use"> = {
  name: "",
  note: "",
  events_per_month: 1,
  event_km: 30,
  then_s: 0,
  then_speed_mps: 0,
  conditions: {
    air_C: null,
    altitude_m: null,
    duct_factor: 1,
    without_trailer: false,
    battery_full: false,
  },
  circuit_id: null,
  laps: 10,
  driver_level: "",
  traffic: 0,
  cool_down_laps: 0,
  pause_s: 0,
  grade: 0,
  speed_mps: 0,
  duration_s: 0,
  sections: [],
  stops: [],
  repeat: 1,
  week: null,
  run_id: null,
  parts: [],
};

export const blankStop = (): Schemas["StopIO"] => ({
  from_mps: 100 / 3.6,
  to_mps: 0,
  decel_mps2: 6,
  grade: 0,
  then_s: 45,
  then_speed_mps: 20,
});
export const blankSection = (): Schemas["SectionIO"] => ({
  length_m: 1000,
  grade: 0.08,
  speed_mps: 50 / 3.6,
  stops: 0,
  gear: "usual",
});

/** A duty to start from: every number plausible, so that the drawing shows something at once. */
export function newBody(kind: Kind, circuits: Schemas["CircuitOut"][], duties: Schemas["DutyOut"][]): Body {
  const body: Body = { ...plain, kind, use: usual[kind] };
  if (kind === "session")
    return {
      ...body,
      circuit_id: circuits[0]?.id ?? null,
      driver_level: "intermediate",
      cool_down_laps: 1,
      then_s: 600,
    };
  if (kind === "descent") return { ...body, grade: 0.08, speed_mps: 50 / 3.6, duration_s: 360, then_s: 900 };
  if (kind === "sections") return { ...body, sections: [blankSection()], then_s: 900 };
  if (kind === "stops") return { ...body, stops: [blankStop()], repeat: 5, then_s: 900 };
  if (kind === "week")
    return {
      ...body,
      week: { town_km: 60, rural_km: 80, motorway_km: 0, days: 5 },
      events_per_month: 22,
      event_km: 28,
      then_s: 900,
    };
  const road = duties.find((row) => row.use === "street" && row.kind !== "day");
  const event = duties.find((row) => row.kind === "session");
  const part = (row: Schemas["DutyOut"] | undefined, gap_s: number, times = 1) =>
    row ? [{ duty_id: row.id, times, gap_s }] : [];
  return { ...body, parts: [...part(road, 1800), ...part(event, 3600, 2), ...part(road, 0)], event_km: 150 };
}

/** A stored duty as it is sent back. */
export function bodyOf({ id: _, circuit: __, run: ___, ...body }: Schemas["DutyOut"]): Body {
  return body;
}

export type Lap = { km: number; s: number };

/** Laps that make so many seconds, or so many km, cool-down laps among them; one at least. */
export function lapsFor(body: Body, lap: Lap, typed: { s: number } | { km: number }): number {
  const all = "s" in typed ? typed.s / lap.s : typed.km / lap.km;
  return Math.max(1, Math.round(all) - body.cool_down_laps);
}

/** A descent of so many metres at the speed it is driven at. */
export function downFor(body: Body, length_m: number): Partial<Body> {
  return { duration_s: length_m / body.speed_mps };
}

/** How far one event is on the duty itself, in km; null where only the user knows. */
export function wayKm(body: Body, lap_km: number | null): number | null {
  if (body.kind === "session") return lap_km === null ? null : lap_km * (body.laps + body.cool_down_laps);
  if (body.kind === "sections") return body.sections.reduce((sum, row) => sum + row.length_m, 0) / 1000;
  if (body.kind === "descent") return (body.speed_mps * body.duration_s) / 1000;
  if (body.kind === "week" && body.week)
    return (body.week.town_km + body.week.rural_km + body.week.motorway_km) / body.week.days;
  return null;
}

/** What is being typed of a duty, by the machine on whose page it is; kept over a reload until it is saved or put away. */
export const draftStore = createDraft<Record<number, Draft>>({}, "duty-drafts");

/** Begin or change the draft of a machine's page, or put it away; it never opens on another machine's. */
export function setDutyDraft(machineId: number, draft: Draft | null) {
  const { [machineId]: _, ...others } = draftStore.get();
  draftStore.set(draft ? { ...others, [machineId]: draft } : others);
}
