import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { figure, type System, shownRange, unitOf } from "../lib/units";
import { type Box, Frame, Measured, RowAxis } from "./frame";

type Reading = { after: number; value_C: number; believed: boolean };
type Props = {
  /** The front ring at the end of each step: as it was planned, as it was driven, as it will be; degC. */
  planned: number[];
  done: number[];
  left: number[];
  readings: Reading[];
  low: number;
  high: number;
  system: System;
  height?: number;
};

/** A run under way: what was planned, what was driven, what is left, and what was read. */
export function RunLadder(props: Props) {
  return (
    <>
      <p className="condensed text-xs">
        Front ring after each braking, {unitOf("temperature", props.system).symbol}: driven solid, to come
        dashed, planned dotted, read ○
      </p>
      <Measured initial={360}>{(width) => <Drawn {...props} width={width} />}</Measured>
    </>
  );
}

function Drawn({
  planned,
  done,
  left,
  readings,
  low,
  high,
  system,
  height = 230,
  width,
}: Props & { width: number }) {
  const box: Box = { width, height, left: 38, right: 10, top: 8, bottom: 8 };
  const steps = Math.max(planned.length, done.length + left.length, 2);
  const top = 1.1 * Math.max(high, ...planned, ...done, ...left, ...readings.map((one) => one.value_C));
  const x = scaleLinear([1, steps], [box.left + 8, width - box.right - 8]);
  const y = scaleLinear([0, top], [height - box.bottom, box.top]);
  const path = (values: number[], from: number) =>
    line<number>(
      (_, place) => x(from + place),
      (value) => y(value),
    )(values) ?? "";
  const last = done[done.length - 1];
  return (
    <Frame
      box={box}
      label={`Front ring after each braking: ${done.length} driven, ${left.length} left; window ${low} to ${high} degrees Celsius`}
    >
      <RowAxis box={box} domain={shownRange([0, top], "temperature", system)} count={5} format={String} />
      <rect
        x={box.left}
        y={y(high)}
        width={width - box.left - box.right}
        height={y(low) - y(high)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      <text x={box.left + 6} y={y(high) + 14} fontSize={11.5}>
        window {figure(low, "temperature", system)} to {figure(high, "temperature", system)}
      </text>
      <path d={path(planned, 1)} fill="none" stroke="var(--muted)" strokeDasharray="2 3" />
      <path d={path(done, 1)} fill="none" stroke="var(--ink)" strokeWidth={2.2} />
      <path
        d={path(last === undefined ? left : [last, ...left], last === undefined ? 1 : done.length)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.4}
        strokeDasharray="6 3"
      />
      {readings.map((one, place) => (
        <g
          // biome-ignore lint/suspicious/noArrayIndexKey: readings have no name but their place
          key={place}
        >
          <circle cx={x(Math.max(1, one.after))} cy={y(one.value_C)} r={5} fill="none" stroke="var(--ink)" />
          {!one.believed && (
            <path
              d={`M${x(one.after) - 5} ${y(one.value_C) - 5} l10 10 m0 -10 l-10 10`}
              stroke="var(--over)"
              strokeWidth={1.6}
            />
          )}
        </g>
      ))}
    </Frame>
  );
}
