import { scaleLinear } from "d3-scale";
import { useId } from "react";
import type { System } from "../lib/units";
import { HeatAxis } from "./HeatAxis";

export type FittedReading = {
  kind: string;
  axle: string;
  measured_C: number;
  before_C: number;
  after_C: number;
  suspect: boolean;
};
type Props = { readings: FittedReading[]; system: System };

const HEIGHT = 220;
const TOP = 24;
const BASE = HEIGHT - 12;
const AXIS = 56;
const COLUMN = 74;

/** Every reading on one temperature axis: what was measured, what the model said before, and what it says fitted. */
export function FitLadder({ readings, system }: Props) {
  const id = useId();
  const hottest = Math.max(200, ...readings.flatMap((row) => [row.measured_C, row.before_C, row.after_C]));
  const top = Math.ceil((hottest + 20) / 100) * 100;
  const y = scaleLinear([0, top], [BASE, TOP]);
  const width = AXIS + readings.length * COLUMN;
  return (
    <div className="my-2 overflow-x-auto">
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        width={width}
        height={HEIGHT}
        role="img"
        aria-label="Readings against the model on the heat ladder, before and after the fit"
        className="block"
      >
        <HeatAxis
          gradient={`${id}heat`}
          y={y}
          top_C={top}
          coloured_C={top}
          x={AXIS}
          width={width}
          system={system}
          mostLabels={6}
        />
        {readings.map((row, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: readings keep their order
          <Column key={index} row={row} x={AXIS + index * COLUMN + COLUMN / 2} y={y} />
        ))}
      </svg>
      <p className="condensed text-xs text-muted">
        Bar: measured, with an arrow where paint gives a bound. Hollow: the model before. Filled: fitted.
      </p>
    </div>
  );
}

function Column({ row, x, y }: { row: FittedReading; x: number; y: (value: number) => number }) {
  const colour = row.suspect ? "var(--over)" : "var(--ink)";
  const at = y(row.measured_C);
  const way = row.kind === "at_least" ? -1 : row.kind === "less_than" ? 1 : 0;
  return (
    <g>
      <text x={x} y={14} textAnchor="middle" fontSize={11}>
        {row.suspect ? `▲ ${row.axle}` : row.axle}
      </text>
      <line x1={x - 26} x2={x + 26} y1={at} y2={at} stroke={colour} strokeWidth={3} />
      {way !== 0 && (
        <path
          d={`M ${x - 20} ${at} v ${way * 12} m -4 ${-way * 4} l 4 ${way * 5} l 4 ${-way * 5}`}
          fill="none"
          stroke={colour}
          strokeWidth={1.5}
        />
      )}
      <line
        x1={x}
        x2={x}
        y1={y(row.before_C)}
        y2={y(row.after_C)}
        stroke="var(--muted)"
        strokeDasharray="2 2"
      />
      <rect
        x={x - 5}
        y={y(row.before_C) - 5}
        width={10}
        height={10}
        fill="var(--chalk)"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      <rect x={x - 5} y={y(row.after_C) - 5} width={10} height={10} fill="var(--ink)" />
    </g>
  );
}
