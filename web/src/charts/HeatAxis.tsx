import { ramp, temperatureMarks } from "../lib/temperature";
import type { System } from "../lib/units";

type Props = {
  /** The id of the gradient of temperature colours, for whoever fills a shape with it. */
  gradient: string;
  y: (temperature_C: number) => number;
  /** Where the axis ends, and up to where its coloured strip goes. */
  top_C: number;
  coloured_C: number;
  x: number;
  width: number;
  system: System;
  /** With more lines than these only every other has its label. */
  mostLabels?: number;
};

/** The temperature axis of a ladder: its colours, and lines at round figures of the reader's unit. */
export function HeatAxis({ gradient, y, top_C, coloured_C, x, width, system, mostLabels }: Props) {
  const marks = temperatureMarks(top_C, system);
  const every = mostLabels !== undefined && marks.length > mostLabels ? 2 : 1;
  return (
    <>
      <defs>
        <linearGradient id={gradient} gradientUnits="userSpaceOnUse" x1={0} x2={0} y1={y(0)} y2={y(900)}>
          {ramp.map(([at, colour]) => (
            <stop key={at} offset={at / 900} stopColor={colour} />
          ))}
        </linearGradient>
      </defs>
      <rect x={x - 12} y={y(coloured_C)} width={6} height={y(0) - y(coloured_C)} fill={`url(#${gradient})`} />
      {marks.map(({ at_C, text }, index) => (
        <g key={text}>
          <line x1={x - 4} x2={width} y1={y(at_C)} y2={y(at_C)} stroke="var(--hairline)" />
          {index % every === 0 && (
            <text x={x - 18} y={y(at_C) + 4} textAnchor="end" fontSize={11} className="figures muted">
              {text}
            </text>
          )}
        </g>
      ))}
    </>
  );
}
