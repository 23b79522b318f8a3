import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { clockText } from "../lib/text";
import { figure, type System, shownRange, unitOf } from "../lib/units";
import { type Box, ColumnAxis, Frame, Measured, RowAxis, timeTicks } from "./frame";

type Props = {
  t_s: number[];
  front: number[];
  rear: number[];
  low: number;
  high: number;
  system: System;
};

/** The rings' surface through a bedding plan, with the window it has to reach and must not pass. */
export function BeddingCurve(props: Props) {
  return <Measured initial={560}>{(width) => <Drawn {...props} width={width} />}</Measured>;
}

function Drawn({ t_s, front, rear, low, high, system, width }: Props & { width: number }) {
  const box: Box = { width, height: 280, left: 38, right: 12, top: 24, bottom: 26 };
  const end = t_s[t_s.length - 1] ?? 1;
  const top = Math.max(high, ...front, ...rear) * 1.08;
  const x = scaleLinear([0, end], [box.left, box.width - box.right]);
  const y = scaleLinear([0, top], [box.height - box.bottom, box.top]);
  const path = (values: number[]) =>
    line<number>(
      (_, i) => x(t_s[i] ?? 0),
      (value) => y(value),
    )(values) ?? "";
  return (
    <Frame
      box={box}
      label={`Ring temperature through the plan; bedding window ${low} to ${high} degrees Celsius`}
    >
      <RowAxis box={box} domain={shownRange([0, top], "temperature", system)} count={6} format={String} />
      <rect
        x={box.left}
        y={y(high)}
        width={box.width - box.left - box.right}
        height={y(low) - y(high)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      <text x={box.left + 8} y={y(high) + 15} fontSize={11.5}>
        bedding window {figure(low, "temperature", system)} to {figure(high, "temperature", system)}
      </text>
      <path d={path(rear)} fill="none" stroke="var(--ink)" strokeDasharray="4 3" />
      <path d={path(front)} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
      <ColumnAxis box={box} domain={[0, end]} ticks={timeTicks(end)} format={clockText} />
      <text x={box.left} y={14} fontSize={11.5}>
        ring surface, {unitOf("temperature", system).symbol}: front solid, rear dashed
      </text>
    </Frame>
  );
}
