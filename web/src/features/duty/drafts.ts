import type { Schemas } from "../../api/client";
import { createDraft } from "../../lib/store";

export type Body = Schemas["DutyIn"];
export type Shape = Body["shape"];
export type Kind = Shape["kind"];
export type ShapeOf<K extends Kind> = Extract<Shape, { kind: K }>;
export type Draft = { duty_id: number | null; body: Body };

/** What the form of a kind of duty is given: the shape, and the way to change it. */
export type FormProps<K extends Kind> = {
  shape: ShapeOf<K>;
  /** Numbers that change; the others are as they stand by then, however long an answer was waited for. */
  set: (change: Partial<ShapeOf<K>>) => void;
  /** Told while something of it is typed that has to be kept first. */
  onDrawing: (open: boolean) => void;
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

const plain: Omit<Body, "shape" | "use"> = {
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
export function newBody<K extends Kind>(
  kind: K,
  circuits: Schemas["CircuitOut"][],
  duties: Schemas["DutyOut"][],
): Omit<Body, "shape"> & { shape: ShapeOf<K> } {
  return { ...plain, use: usual[kind], ...starts[kind], shape: newShapes(circuits, duties)[kind] };
}

/** Time afterwards, events a month and distance of a new duty, where its kind has other ones than usual. */
const starts: Partial<Record<Kind, Partial<Body>>> = {
  session: { then_s: 600 },
  descent: { then_s: 900 },
  sections: { then_s: 900 },
  stops: { then_s: 900 },
  week: { then_s: 900, events_per_month: 22, event_km: 28 },
  day: { event_km: 150 },
};

function newShapes(
  circuits: Schemas["CircuitOut"][],
  duties: Schemas["DutyOut"][],
): { [K in Kind]: ShapeOf<K> } {
  const road = duties.find((row) => row.use === "street" && row.shape.kind !== "day");
  const event = duties.find((row) => row.shape.kind === "session");
  const part = (row: Schemas["DutyOut"] | undefined, gap_s: number, times = 1) =>
    row ? [{ duty_id: row.id, times, gap_s }] : [];
  return {
    session: {
      kind: "session",
      circuit_id: circuits[0]?.id ?? null,
      laps: 10,
      driver_level: "intermediate",
      traffic: 0,
      cool_down_laps: 1,
      pause_s: 0,
    },
    descent: { kind: "descent", grade: 0.08, speed_mps: 50 / 3.6, duration_s: 360 },
    sections: { kind: "sections", sections: [blankSection()] },
    stops: { kind: "stops", stops: [blankStop()], repeat: 5 },
    week: { kind: "week", town_km: 60, rural_km: 80, motorway_km: 0, days: 5 },
    recorded: { kind: "recorded", run_id: null },
    day: { kind: "day", parts: [...part(road, 1800), ...part(event, 3600, 2), ...part(road, 0)] },
  };
}

/** A stored duty as it is sent back. */
export function bodyOf({ id: _, circuit: __, run: ___, ...body }: Schemas["DutyOut"]): Body {
  return body;
}

/** The recorded run a duty is, by its number. */
export const runOf = ({ shape }: Schemas["DutyOut"]): number | null =>
  shape.kind === "recorded" ? (shape.run_id ?? null) : null;

export type Lap = { km: number; s: number };

/** Laps that make so many seconds, or so many km, cool-down laps among them; one at least. */
export function lapsFor(laps: ShapeOf<"session">, lap: Lap, typed: { s: number } | { km: number }): number {
  const all = "s" in typed ? typed.s / lap.s : typed.km / lap.km;
  return Math.max(1, Math.round(all) - laps.cool_down_laps);
}

/** A descent of so many metres at the speed it is driven at. */
export function downFor(down: ShapeOf<"descent">, length_m: number): Partial<ShapeOf<"descent">> {
  return { duration_s: length_m / down.speed_mps };
}

/** How far one event is on the duty itself, in km; null where only the user knows. */
export function wayKm(shape: Shape, lap_km: number | null): number | null {
  switch (shape.kind) {
    case "session":
      return lap_km === null ? null : lap_km * (shape.laps + shape.cool_down_laps);
    case "sections":
      return shape.sections.reduce((sum, row) => sum + row.length_m, 0) / 1000;
    case "descent":
      return (shape.speed_mps * shape.duration_s) / 1000;
    case "week":
      return (shape.town_km + shape.rural_km + shape.motorway_km) / shape.days;
    default:
      return null;
  }
}

/** What is being typed of a duty, by the machine on whose page it is; kept over a reload until it is saved or put away. */
export const draftStore = createDraft<Record<number, Draft>>({}, "duty-drafts");

type Flat = { kind: Kind; week?: object | null };

/** A draft that lies on this device; one of an earlier version has the numbers of every kind beside each other. */
export function shaped(draft: Draft | undefined): Draft | null {
  if (!draft || draft.body.shape) return draft ?? null;
  const flat = draft.body as unknown as Body & Flat;
  const typed: Record<string, unknown> = { ...flat, ...flat.week };
  const body = newBody(flat.kind, [], []);
  const plain = Object.fromEntries(Object.keys(body).map((name) => [name, typed[name]]));
  const shape = Object.fromEntries(Object.keys(body.shape).map((name) => [name, typed[name]]));
  return { ...draft, body: { ...body, ...plain, shape: { ...body.shape, ...shape } as Shape } };
}

/** Change numbers of the draft as it stands now: what was typed since the page was drawn is not taken back. */
export function changeBody(machineId: number, duty_id: number | null, change: (now: Body) => Partial<Body>) {
  const draft = shaped(draftStore.get()[machineId]);
  if (draft?.duty_id !== duty_id) return;
  setDutyDraft(machineId, { duty_id, body: { ...draft.body, ...change(draft.body) } });
}

/** Numbers of a shape into a body that is still of its kind. */
export const withShape =
  (kind: Kind, change: object) =>
  ({ shape }: Body): Partial<Body> =>
    shape.kind === kind ? { shape: { ...shape, ...change } as Shape } : {};

/** Begin or change the draft of a machine's page, or put it away; it never opens on another machine's. */
export function setDutyDraft(machineId: number, draft: Draft | null) {
  const { [machineId]: _, ...others } = draftStore.get();
  draftStore.set(draft ? { ...others, [machineId]: draft } : others);
}
