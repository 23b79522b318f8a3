import { scaleLinear } from "d3-scale";
import { temperatureColour, temperatureMarks } from "../lib/temperature";
import type { System } from "../lib/units";

export type SchoolColumn = {
  key: string;
  label: string;
  /** Both rings at the end of each step, degC. */
  front: number[];
  rear: number[];
  peak_front_C: number;
  peak_rear_C: number;
  low_C: number;
  high_C: number;
  /** What stands below: minutes, state. */
  foot: React.ReactNode;
  shut: boolean;
};

type Props = {
  columns: SchoolColumn[];
  selected: string;
  system: System;
  onSelect: (key: string) => void;
};

const HEIGHT = 250;
const TOP = 10;
const WIDTH = 96;

/** Schools side by side: what each braking brings the rings to, in the frame of the window, and the faces' peaks. */
export function SchoolLadder({ columns, selected, system, onSelect }: Props) {
  const top =
    1.08 * Math.max(100, ...columns.flatMap((one) => [one.high_C, one.peak_front_C, one.peak_rear_C]));
  const y = scaleLinear([0, top], [HEIGHT - 6, TOP]);
  return (
    <div className="flex items-start">
      <svg width={44} height={HEIGHT} aria-hidden="true" className="shrink-0">
        {temperatureMarks(top, system).map((mark) => (
          <text
            key={mark.text}
            x={38}
            y={y(mark.at_C) + 4}
            textAnchor="end"
            fontSize={11.5}
            className="figures"
          >
            {mark.text}
          </text>
        ))}
      </svg>
      {columns.map((column) => (
        <button
          key={column.key}
          type="button"
          aria-pressed={column.key === selected}
          data-school={column.key}
          className="flex w-26 shrink-0 flex-col items-start justify-start border-t-2 border-transparent px-1 pb-2 text-left aria-pressed:border-ink aria-pressed:bg-paper"
          onClick={() => onSelect(column.key)}
        >
          <svg width={WIDTH} height={HEIGHT} aria-hidden="true" className="block">
            {temperatureMarks(top, system).map((mark) => (
              <line
                key={mark.text}
                x1={0}
                x2={WIDTH}
                y1={y(mark.at_C)}
                y2={y(mark.at_C)}
                stroke="var(--hairline)"
              />
            ))}
            <rect
              x={4}
              width={WIDTH - 8}
              y={y(column.high_C)}
              height={y(column.low_C) - y(column.high_C)}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={1.4}
            />
            {!column.shut && (
              <>
                <Steps values={column.front} x={10} wide={34} y={y} dash="" />
                <Steps values={column.rear} x={54} wide={34} y={y} dash="3 2" />
                <Peak x={10} value={column.peak_front_C} y={y} />
                <Peak x={54} value={column.peak_rear_C} y={y} />
              </>
            )}
          </svg>
          <span className="block font-semibold leading-tight">{column.label}</span>
          <span className="condensed block text-xs leading-tight">{column.foot}</span>
        </button>
      ))}
    </div>
  );
}

type Scale = (value: number) => number;

function Steps({
  values,
  x,
  wide,
  y,
  dash,
}: {
  values: number[];
  x: number;
  wide: number;
  y: Scale;
  dash: string;
}) {
  return (
    <>
      {values.map((value, place) => (
        <line
          // biome-ignore lint/suspicious/noArrayIndexKey: steps have no name but their place
          key={place}
          x1={x}
          x2={x + wide}
          y1={y(value)}
          y2={y(value)}
          stroke={temperatureColour(value)}
          strokeWidth={2}
          strokeDasharray={dash}
        />
      ))}
    </>
  );
}

/** The face's peak: a tick with a foot to each side. */
function Peak({ x, value, y }: { x: number; value: number; y: Scale }) {
  const at = y(value);
  return <path d={`M${x} ${at + 4} V${at} H${x + 34} V${at + 4}`} fill="none" stroke="var(--ink)" />;
}
