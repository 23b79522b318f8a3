import { scaleLinear } from "d3-scale";
import { curveMonotoneX, line } from "d3-shape";
import { useId } from "react";
import { figure, type System, shownRange, unitOf } from "../lib/units";
import { dashes } from "./frame";

export type FrictionCurve = {
  name: string;
  window_C: [number, number];
  points: { temperature_C: number; mu: number; provenance: string }[];
  /** Readings of one's own, beside the curve. */
  own?: { id: number; temperature_C: number; mu: number }[];
};
type Props = { curves: FrictionCurve[]; system: System };

const WIDTH = 640;
const HEIGHT = 300;
const LEFT = 44;
const RIGHT = 150;
const BASE = HEIGHT - 36;
const TOP = 12;

/** Friction against ring temperature, several compounds over each other; bold inside the working window. */
export function FrictionCurves({ curves, system }: Props) {
  const all = curves.flatMap((curve) => curve.points);
  const hottest = Math.max(400, ...all.map((point) => point.temperature_C));
  const highest =
    Math.max(0.5, ...[...all, ...curves.flatMap((curve) => curve.own ?? [])].map((point) => point.mu)) + 0.05;
  const x = scaleLinear([0, hottest], [LEFT, WIDTH - RIGHT]).clamp(true);
  const y = scaleLinear([0, highest], [BASE, TOP]);
  const shown = scaleLinear(shownRange([0, hottest], "temperature", system), [LEFT, WIDTH - RIGHT]);
  const ends = spread(curves.map((curve) => y(curve.points.at(-1)?.mu ?? 0)));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block w-full min-w-136 max-w-3xl"
      role="img"
      aria-label={`Friction against temperature: ${curves.map(sayCurve(system)).join("; ")}`}
    >
      {y.ticks(6).map((mark) => (
        <g key={mark}>
          <line x1={LEFT} x2={WIDTH - RIGHT} y1={y(mark)} y2={y(mark)} stroke="var(--hairline)" />
          <text x={LEFT - 6} y={y(mark) + 4} textAnchor="end" fontSize={11} className="figures muted">
            {mark.toFixed(1)}
          </text>
        </g>
      ))}
      {shown.ticks(7).map((mark) => (
        <text
          key={mark}
          x={shown(mark)}
          y={BASE + 16}
          textAnchor="middle"
          fontSize={11}
          className="figures muted"
        >
          {mark}
        </text>
      ))}
      <text x={(LEFT + WIDTH - RIGHT) / 2} y={HEIGHT - 4} textAnchor="middle" fontSize={11} className="muted">
        ring surface, {unitOf("temperature", system).symbol}
      </text>
      {curves.map((curve, index) => (
        <Curve
          key={curve.name}
          curve={curve}
          dash={dashes[index % dashes.length] ?? ""}
          x={x}
          y={y}
          end={ends[index] ?? 0}
        />
      ))}
    </svg>
  );
}

type Scale = (value: number) => number;
type CurveProps = { curve: FrictionCurve; dash: string; x: Scale; y: Scale; end: number };

function Curve({ curve, dash, x, y, end }: CurveProps) {
  const clip = useId();
  // Rounded without overshoot between the points, as the engine takes them.
  const path =
    line<FrictionCurve["points"][number]>()
      .x((point) => x(point.temperature_C))
      .y((point) => y(point.mu))
      .curve(curveMonotoneX)(curve.points) ?? "";
  const [low, high] = curve.window_C;
  const last = curve.points.at(-1);
  return (
    <g>
      <clipPath id={clip}>
        <rect x={x(low)} y={0} width={Math.max(0, x(high) - x(low))} height={HEIGHT} />
      </clipPath>
      <path d={path} fill="none" stroke="var(--ink)" strokeWidth={1} strokeDasharray={dash} />
      <path
        d={path}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={3}
        strokeDasharray={dash}
        clipPath={`url(#${clip})`}
      />
      {curve.points.map((point) => (
        <circle
          key={point.temperature_C}
          cx={x(point.temperature_C)}
          cy={y(point.mu)}
          r={point.provenance === "measured" ? 4 : 2.5}
          fill={point.provenance === "measured" ? "var(--ink)" : "var(--chalk)"}
          stroke="var(--ink)"
          strokeDasharray={point.provenance === "estimate" ? "1 1" : undefined}
        />
      ))}
      {(curve.own ?? []).map((reading) => (
        <path
          key={reading.id}
          data-own-reading=""
          d={`M${x(reading.temperature_C) - 5},${y(reading.mu)}h10m-5,-5v10`}
          stroke="var(--ink)"
          strokeWidth={2}
        />
      ))}
      {last && (
        <>
          <line
            x1={x(last.temperature_C)}
            x2={WIDTH - RIGHT + 8}
            y1={y(last.mu)}
            y2={end}
            stroke="var(--muted)"
            strokeWidth={0.7}
          />
          <text x={WIDTH - RIGHT + 11} y={end + 4} fontSize={12}>
            {curve.name}
          </text>
        </>
      )}
    </g>
  );
}

/** Heights of labels, moved apart where they would lie on each other. */
export function spread(heights: number[], apart = 15): number[] {
  const order = heights.map((height, index) => ({ height, index })).sort((a, b) => a.height - b.height);
  for (let i = 1; i < order.length; i += 1) {
    const before = order[i - 1];
    const here = order[i];
    if (before && here) here.height = Math.max(here.height, before.height + apart);
  }
  const over = Math.max(0, (order.at(-1)?.height ?? 0) - BASE);
  const found = [...heights];
  for (const { height, index } of order) found[index] = height - over;
  return found;
}

function sayCurve(system: System) {
  return (curve: FrictionCurve) =>
    `${curve.name}: ${curve.points.map((point) => `${point.mu} at ${figure(point.temperature_C, "temperature", system)}`).join(", ")}${curve.own?.length ? `, ${curve.own.length} own readings` : ""}`;
}
