import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { gearText } from "../../lib/text";
import type { Quantity } from "../../lib/units";
import { NumberField } from "../../ui/NumberField";
import { type Column, Rows } from "../../ui/Rows";
import { blankSection, blankStop, downFor, type Kind, type Lap, type Shape, type ShapeOf } from "./drafts";
import { SessionForm } from "./SessionForm";

/** Some numbers of one kind of shape. */
type Change = { [K in Kind]: Partial<Omit<ShapeOf<K>, "kind">> }[Kind];

type Props = {
  shape: Shape;
  set: (change: Change) => void;
  onDrawing: (open: boolean) => void;
  /** One lap or run as this machine drives it, once that is known. */
  lap: Lap | null;
  duties: Schemas["DutyOut"][];
  dutyId: number | null;
};

const sectionColumns: Column<Schemas["SectionIO"]>[] = [
  { name: "length_m", label: "Length", quantity: "length", width: "w-24" },
  { name: "grade", label: "Falls", quantity: "grade", width: "w-20" },
  { name: "speed_mps", label: "Speed", quantity: "speed", width: "w-24" },
  {
    name: "gear",
    label: "Gear",
    width: "w-48",
    options: [
      ["usual", "usual"],
      ["one_lower", gearText("one_lower")],
      ["two_lower", gearText("two_lower")],
    ],
  },
  { name: "stops", label: "Stops", quantity: "count", width: "w-20" },
];
const stopColumns: Column<Schemas["StopIO"]>[] = [
  { name: "from_mps", label: "From", quantity: "speed", width: "w-24" },
  { name: "to_mps", label: "To", quantity: "speed", width: "w-24" },
  { name: "decel_mps2", label: "How hard", quantity: "decel", width: "w-20" },
  { name: "grade", label: "Climbs", quantity: "grade", width: "w-20" },
  { name: "then_s", label: "Then for", quantity: "seconds", width: "w-20" },
  { name: "then_speed_mps", label: "At", quantity: "speed", width: "w-24" },
];

/** The numbers of one kind of duty. */
export function KindForm({ shape, set, onDrawing, lap, duties, dutyId }: Props) {
  // Whichever of the two was typed stays when the speed changes.
  const [byLength, setByLength] = useState(false);
  const { system } = useUnits();
  const number = (
    label: string,
    quantity: Quantity,
    value: number,
    path: string,
    commit: (value: number) => void,
    hint?: string,
  ) => (
    <NumberField
      label={label}
      quantity={quantity}
      system={system}
      value={value}
      hint={hint}
      path={`shape.${path}`}
      onCommit={(typed) => typed !== null && commit(typed)}
    />
  );
  switch (shape.kind) {
    case "session":
      return <SessionForm shape={shape} set={set} onDrawing={onDrawing} lap={lap} />;
    case "descent":
      return (
        <div className="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-4">
          {number(
            "Falls",
            "grade",
            shape.grade,
            "grade",
            (grade) => set({ grade }),
            "signs, or climb over length",
          )}
          {number("Speed held", "speed", shape.speed_mps, "speed_mps", (speed_mps) =>
            set({
              speed_mps,
              ...(byLength ? downFor({ ...shape, speed_mps }, shape.speed_mps * shape.duration_s) : {}),
            }),
          )}
          {number(
            "Minutes of it",
            "minutes",
            shape.duration_s,
            "duration_s",
            (duration_s) => {
              setByLength(false);
              set({ duration_s });
            },
            "or its length",
          )}
          {number(
            "Length of it",
            "fineDistance",
            (shape.speed_mps * shape.duration_s) / 1000,
            "length_m",
            (km) => {
              setByLength(true);
              set(downFor(shape, 1000 * km));
            },
            "or its minutes",
          )}
        </div>
      );
    case "sections":
      return (
        <>
          <p className="mb-2 text-muted">
            Top to bottom. Stops are spread over their section, each to rest. A lower gear holds about half as
            much again as the one above and turns the engine about 1.4 times as fast, two lower twice as fast
            (both estimates): the rev counter and the manual say what it may turn.
          </p>
          <Rows
            title="Sections of the descent"
            item="section"
            rows={shape.sections}
            columns={sectionColumns}
            system={system}
            blank={blankSection}
            onChange={(sections) => set({ sections })}
            path={(index, name) => `shape.sections[${index}].${name}`}
          />
        </>
      );
    case "stops":
      return (
        <>
          <Rows
            title="Stops"
            item="stop"
            rows={shape.stops}
            columns={stopColumns}
            system={system}
            blank={blankStop}
            onChange={(stops) => set({ stops })}
            path={(index, name) => `shape.stops[${index}].${name}`}
          />
          <div className="mt-3 grid grid-cols-2 gap-x-4 sm:grid-cols-4">
            {number(
              "The whole series",
              "count",
              shape.repeat,
              "repeat",
              (value) => set({ repeat: Math.max(1, Math.round(value)) }),
              "times over",
            )}
          </div>
        </>
      );
    case "week": {
      const part = (name: "town_km" | "rural_km" | "motorway_km", label: string) =>
        number(label, "distance", shape[name], name, (value) => set({ [name]: value }));
      return (
        <>
          <p className="mb-2 text-muted">
            A usual week by the odometer. One event is one of its driving days; how often each kind of road
            makes you brake is an estimate.
          </p>
          <div className="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-4">
            {part("town_km", "Town")}
            {part("rural_km", "Country roads")}
            {part("motorway_km", "Motorway")}
            {number("On days", "count", shape.days, "days", (value) =>
              set({ days: Math.min(7, Math.max(1, Math.round(value))) }),
            )}
          </div>
        </>
      );
    }
    case "recorded":
      return <p className="text-muted">The speed is that of the recorded run; it is not typed.</p>;
    case "day":
      return <DayForm shape={shape} set={set} duties={duties} dutyId={dutyId} />;
  }
}

type PartRow = Omit<Schemas["PartIO"], "duty_id"> & { duty_id: string };

type DayProps = Pick<Props, "set" | "duties" | "dutyId"> & { shape: ShapeOf<"day"> };

function DayForm({ shape, set, duties, dutyId }: DayProps) {
  const { system } = useUnits();
  const options = duties
    .filter((row) => row.shape.kind !== "day" && row.id !== dutyId)
    .map((row) => [String(row.id), row.name] as const);
  const columns: Column<PartRow>[] = [
    { name: "duty_id", label: "Duty", options, width: "w-64" },
    { name: "times", label: "Times", quantity: "count", width: "w-20" },
    { name: "gap_s", label: "Parked after each", quantity: "minutes", width: "w-28" },
  ];
  const first = options[0]?.[0] ?? "";
  return (
    <>
      <p className="mb-2 text-muted">
        In the order of the day: the drive there, the sessions with their pauses, the drive home. The air and
        ducts below hold for all of it.
      </p>
      <Rows
        title="Parts of the day"
        item="part"
        rows={shape.parts.map((part): PartRow => ({ ...part, duty_id: String(part.duty_id) }))}
        columns={columns}
        system={system}
        blank={() => ({ duty_id: first, times: 1, gap_s: 0 })}
        onChange={(parts) =>
          set({
            parts: parts.map((part) => ({
              ...part,
              duty_id: Number(part.duty_id),
              times: Math.round(part.times),
            })),
          })
        }
        path={(index, name) => `shape.parts[${index}].${name}`}
      />
    </>
  );
}
