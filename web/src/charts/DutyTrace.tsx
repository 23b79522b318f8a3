import { max } from "d3-array";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { axisClock } from "../lib/text";
import { type System, shownRange, unitOf } from "../lib/units";
import { type Box, ColumnAxis, Frame, Measured, RowAxis, timeTicks } from "./frame";

type Trace = {
  t_s: number[];
  v_mps: number[];
  brake_power_W: number[];
  front_surface_C: number[];
  rear_surface_C: number[];
};

/** Speed with the brakes' power under it, and both rings' surface temperature on the same time axis. */
export function DutyTrace(props: Props) {
  return <Measured initial={760}>{(width) => <Drawn {...props} width={width} />}</Measured>;
}

type Props = { trace: Trace; until: number; system: System };

function Drawn({ trace, until, system, width }: Props & { width: number }) {
  const speedBox: Box = { width, height: 210, left: 42, right: 38, top: 22, bottom: 22 };
  const heatBox: Box = { width, height: 170, left: 42, right: 38, top: 20, bottom: 24 };
  const clock = axisClock(until);
  const rows = trace.t_s.map((t, i) => ({ t, i })).filter(({ t }) => t <= until);
  const x = scaleLinear([0, until], [speedBox.left, speedBox.width - speedBox.right]);
  const fastest = max(rows, ({ i }) => trace.v_mps[i]) ?? 1;
  const strongest = max(rows, ({ i }) => trace.brake_power_W[i]) ?? 1;
  const hottest =
    max(rows, ({ i }) => Math.max(trace.front_surface_C[i] ?? 0, trace.rear_surface_C[i] ?? 0)) ?? 100;
  const speed = scaleLinear([0, fastest * 1.08], [speedBox.height - speedBox.bottom, speedBox.top]);
  const power = scaleLinear([0, strongest * 1.6], [speedBox.height - speedBox.bottom, speedBox.top]);
  const heat = scaleLinear([0, hottest * 1.1], [heatBox.height - heatBox.bottom, heatBox.top]);
  const at = (values: number[]) => (row: { i: number }) => values[row.i] ?? 0;
  type Row = { t: number; i: number };
  const path = (scale: (v: number) => number, values: number[]) =>
    line<Row>()
      .x((row) => x(row.t))
      .y((row) => scale(at(values)(row)))(rows) ?? "";
  const painted =
    area<Row>()
      .x((row) => x(row.t))
      .y0(power(0))
      .y1((row) => power(at(trace.brake_power_W)(row)))(rows) ?? "";
  return (
    <div>
      <Frame box={speedBox} label="Speed and brake power over time">
        <RowAxis box={speedBox} domain={shownRange([0, fastest * 1.08], "speed", system)} format={String} />
        <RowAxis
          box={speedBox}
          domain={shownRange([0, strongest * 1.6], "power", system)}
          count={4}
          side="right"
          grid={false}
          format={String}
        />
        <path d={painted} fill="var(--close-fill)" opacity={0.75} />
        <path d={path(speed, trace.v_mps)} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
        <ColumnAxis box={speedBox} domain={[0, until]} ticks={timeTicks(until)} format={clock.format} />
        <text x={speedBox.left} y={13} fontSize={11.5}>
          speed, {unitOf("speed", system).symbol}
        </text>
        <text x={speedBox.width - speedBox.right} y={13} fontSize={11.5} textAnchor="end">
          brake power (filled), {unitOf("power", system).symbol}
        </text>
      </Frame>
      <Frame box={heatBox} label="Ring surface temperatures over time">
        <RowAxis
          box={heatBox}
          domain={shownRange([0, hottest * 1.1], "temperature", system)}
          count={4}
          format={String}
        />
        <path d={path(heat, trace.front_surface_C)} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
        <path
          d={path(heat, trace.rear_surface_C)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.2}
          strokeDasharray="4 3"
        />
        <ColumnAxis box={heatBox} domain={[0, until]} ticks={timeTicks(until)} format={clock.format} />
        <text x={heatBox.left} y={12} fontSize={11.5}>
          ring surface, {unitOf("temperature", system).symbol}: front solid, rear dashed
        </text>
        {width > 480 && (
          <text x={heatBox.width - heatBox.right} y={12} fontSize={11.5} textAnchor="end" className="muted">
            {clock.name}
          </text>
        )}
      </Frame>
    </div>
  );
}
