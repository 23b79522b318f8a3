import { max } from "d3-array";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { axisClock } from "../lib/text";
import { type System, shownRange, unitOf } from "../lib/units";
import { type Box, ColumnAxis, Frame, Measured, RowAxis, timeTicks } from "./frame";

type Props = {
  t_s: number[];
  v_mps: number[];
  brakings: { at_s: number; seconds: number }[];
  laps: { at_s: number; seconds: number }[];
  system: System;
};

/** A recorded run: speed, where it brakes, and where its laps begin. */
export function RunTrace(props: Props) {
  return <Measured initial={760}>{(width) => <Drawn {...props} width={width} />}</Measured>;
}

function Drawn({ t_s, v_mps, brakings, laps, system, width }: Props & { width: number }) {
  const box: Box = { width, height: 210, left: 42, right: 12, top: 22, bottom: 30 };
  const until = t_s[t_s.length - 1] ?? 1;
  const fastest = (max(v_mps) ?? 1) * 1.08;
  const x = scaleLinear([0, until], [box.left, box.width - box.right]);
  const y = scaleLinear([0, fastest], [box.height - box.bottom, box.top]);
  const ground = box.height - box.bottom;
  const path = line<number>(
    (_, i) => x(t_s[i] ?? 0),
    (v) => y(v),
  )(v_mps);
  return (
    <Frame box={box} label={`Speed of the recorded run: ${brakings.length} brakings, ${laps.length} laps`}>
      <RowAxis box={box} domain={shownRange([0, fastest], "speed", system)} format={String} />
      {laps.map((lap) => (
        <line
          key={lap.at_s}
          x1={x(lap.at_s)}
          x2={x(lap.at_s)}
          y1={box.top}
          y2={ground}
          stroke="var(--muted)"
          strokeDasharray="2 3"
        />
      ))}
      {brakings.map((braking) => (
        <rect
          key={braking.at_s}
          x={x(braking.at_s)}
          y={ground + 1}
          width={Math.max(1, x(braking.at_s + braking.seconds) - x(braking.at_s))}
          height={5}
          fill="var(--close-fill)"
        />
      ))}
      <path d={path ?? ""} fill="none" stroke="var(--ink)" strokeWidth={1.2} />
      <ColumnAxis
        box={{ ...box, bottom: box.bottom - 6 }}
        domain={[0, until]}
        ticks={timeTicks(until)}
        format={axisClock(until).format}
      />
      <text x={box.left} y={13} fontSize={11.5}>
        speed, {unitOf("speed", system).symbol} · braking filled below · laps dotted
      </text>
    </Frame>
  );
}
