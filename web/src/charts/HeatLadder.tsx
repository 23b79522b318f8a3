import { scaleLinear } from "d3-scale";
import { area, curveBasis } from "d3-shape";
import { type KeyboardEvent, useId } from "react";
import { figure, type System } from "../lib/units";
import { HeatAxis } from "./HeatAxis";

export type LadderAxle = {
  peak_C: number;
  window_low_C: number;
  window_high_C: number;
  pad_limit_C: number;
  rotor_limit_C: number;
  profile: number[];
};
export type LadderColumn = {
  key: string;
  front: LadderAxle;
  rear: LadderAxle;
  name: string;
  rejected: boolean;
};
export type FluidColumn = { now_C: number; boiling_C: number; dry_C: number; wet_C: number };

const BIN_K = 20;
const HEIGHT = 360;
const TOP = 14;
const BASE = HEIGHT - 34;
export const AXIS = 56;
export const PAIR = 150;
export const FLUID = 74;

type Props = {
  columns: LadderColumn[];
  fluid: FluidColumn | null;
  selected: string | null;
  system: System;
  /** Left out where there is nothing to choose: the columns are then only read. */
  onSelect?: (key: string) => void;
  /** How much of it there is room for, and how far it is scrolled: only columns in sight are drawn. */
  width?: number;
  shift?: number;
  /** What the columns read at one moment, by key; their peaks stay. */
  moment?: ReadonlyMap<string, Moment> | null;
};
export type Moment = { front_C: number; rear_C: number; fluid_C: number };

/** One vertical temperature axis, a column per candidate and axle: window, where the braking falls, peak, limits. */
export function HeatLadder(props: Props) {
  const { columns, fluid, selected, system, onSelect, shift = 0, moment = null } = props;
  const id = useId();
  const hottest = Math.max(
    900,
    ...columns.flatMap((c) => [c.front, c.rear].flatMap((a) => [a.peak_C, a.pad_limit_C])),
  );
  const top = Math.ceil((hottest + 20) / 100) * 100;
  const y = scaleLinear([0, top], [BASE, TOP]);
  const whole = AXIS + columns.length * PAIR + (fluid ? FLUID : 0);
  const width = Math.min(props.width ?? whole, whole);
  const room = width - (fluid ? FLUID : 0);
  const inSight = columns
    .map((column, index) => ({ column, x: AXIS + index * PAIR - shift }))
    .filter(({ x }) => x > AXIS - PAIR && x < room);
  const fluidText = fluid
    ? `; fluid of the chosen set ${figure(fluid.now_C, "temperature", system)}, boils at ${figure(fluid.boiling_C, "temperature", system)}`
    : "";
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with buttons in it is a group, not a fieldset
    <svg
      viewBox={`0 0 ${width} ${HEIGHT}`}
      width={width}
      height={HEIGHT}
      role="group"
      aria-label={`Heat ladder: ring temperatures of the candidates against window and limits${fluidText}`}
      className="block"
    >
      <defs>
        <clipPath id={`${id}room`}>
          <rect x={AXIS - 3} y={0} width={room - AXIS + 3} height={HEIGHT} />
        </clipPath>
      </defs>
      <HeatAxis
        gradient={`${id}heat`}
        y={y}
        top_C={top}
        coloured_C={900}
        x={AXIS}
        width={width}
        system={system}
      />
      <g clipPath={`url(#${id}room)`}>
        {inSight.map(({ column, x }) => (
          <Pair
            key={column.key}
            column={column}
            x={x}
            y={y}
            heat={`url(#${id}heat)`}
            selected={column.key === selected}
            moment={moment?.get(column.key)}
            system={system}
            {...(onSelect ? { onSelect: () => onSelect(column.key) } : {})}
          />
        ))}
      </g>
      {fluid && (
        <Fluid
          fluid={fluid}
          moment_C={moment?.get(selected ?? "")?.fluid_C}
          x={width - FLUID}
          y={y}
          system={system}
        />
      )}
    </svg>
  );
}

type Scale = (value: number) => number;
type PairProps = {
  column: LadderColumn;
  x: number;
  y: Scale;
  heat: string;
  selected: boolean;
  moment: Moment | undefined;
  system: System;
  onSelect?: () => void;
};

function Pair({ column, x, y, heat, selected, moment, system, onSelect }: PairProps) {
  const say = (axle: LadderAxle) =>
    `peak ${figure(axle.peak_C, "temperature", system)}, window ${figure(axle.window_low_C, "temperature", system)} to ${figure(axle.window_high_C, "temperature", system)}`;
  return (
    <g>
      <rect
        x={x + 3}
        y={2}
        width={PAIR - 6}
        height={HEIGHT - 6}
        fill={selected ? "var(--paper)" : "transparent"}
        stroke={selected ? "var(--ink)" : "transparent"}
      />
      <Column axle={column.front} x={x + 11} y={y} heat={heat} label="front" system={system} />
      {moment && <Now at_C={moment.front_C} x={x + 11} y={y} system={system} />}
      <Column axle={column.rear} x={x + 78} y={y} heat={heat} label="rear" system={system} />
      {moment && <Now at_C={moment.rear_C} x={x + 78} y={y} system={system} />}
      <rect
        {...(onSelect
          ? {
              role: "button",
              tabIndex: 0,
              "aria-pressed": selected,
              className: "cursor-pointer",
              onClick: onSelect,
              onKeyDown: (event: KeyboardEvent) => (event.key === "Enter" || event.key === " ") && onSelect(),
            }
          : { role: "img" })}
        aria-label={`${column.name}: front ${say(column.front)}; rear ${say(column.rear)}${column.rejected ? "; rejected" : ""}`}
        x={x + 3}
        y={2}
        width={PAIR - 6}
        height={HEIGHT - 6}
        fill="transparent"
      />
    </g>
  );
}

type ColumnProps = { axle: LadderAxle; x: number; y: Scale; heat: string; label: string; system: System };

function Column({ axle, x, y, heat, label, system }: ColumnProps) {
  const wide = 60;
  const most = Math.max(...axle.profile, 1e-9);
  const points: [number, number][] = [
    [0, 0],
    ...axle.profile.map((share, bin): [number, number] => [
      Math.min((bin + 0.5) * BIN_K, axle.peak_C),
      share,
    ]),
    [axle.peak_C, 0.12 * most],
  ];
  const half = (share: number) => (share / most) * (wide / 2 - 4);
  const shape = area<[number, number]>()
    .y(([temperature]) => y(temperature))
    .x0(([, share]) => x + wide / 2 - half(share))
    .x1(([, share]) => x + wide / 2 + half(share))
    .curve(curveBasis)(points);
  const over = axle.peak_C > Math.min(axle.pad_limit_C, axle.rotor_limit_C);
  const base = y(0);
  return (
    <g>
      {/* below the window: dotted sides; above it up to the pad's limit: dashed frame */}
      <path
        d={`M${x},${y(axle.window_low_C)}V${base}M${x + wide},${y(axle.window_low_C)}V${base}`}
        stroke="var(--ink)"
        strokeDasharray="1.5 2.5"
      />
      <rect
        x={x}
        y={y(axle.pad_limit_C)}
        width={wide}
        height={Math.max(0, y(axle.window_high_C) - y(axle.pad_limit_C))}
        fill="none"
        stroke="var(--ink)"
        strokeDasharray="5 3"
        strokeWidth={0.9}
      />
      {shape && <path d={shape} fill={heat} />}
      <rect
        x={x}
        y={y(axle.window_high_C)}
        width={wide}
        height={y(axle.window_low_C) - y(axle.window_high_C)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.3}
      />
      <path
        d={`M${x - 3},${y(axle.rotor_limit_C) - 2}h${wide + 6}m0,4h${-(wide + 6)}`}
        stroke="var(--ink)"
        strokeWidth={1.2}
      />
      <line
        x1={x - 3}
        x2={x + wide + 3}
        y1={y(axle.peak_C)}
        y2={y(axle.peak_C)}
        stroke="var(--ink)"
        strokeWidth={2}
      />
      <text
        x={x + wide / 2}
        y={y(axle.peak_C) - 5}
        textAnchor="middle"
        fontSize={12}
        fontWeight={700}
        className="figures"
        stroke="var(--chalk)"
        strokeWidth={3}
        paintOrder="stroke"
        style={over ? { fill: "var(--over)" } : undefined}
      >
        {figure(axle.peak_C, "temperature", system)}
      </text>
      <text x={x + wide / 2} y={base + 15} textAnchor="middle" fontSize={11}>
        {label}
      </text>
    </g>
  );
}

/** What a ring reads at the moment looked at: a wedge on each side, and the figure between them. */
function Now({ at_C, x, y, system }: { at_C: number; x: number; y: Scale; system: System }) {
  const level = y(at_C);
  return (
    <g data-now="">
      <path d={`M${x - 6},${level - 5}l7,5l-7,5zM${x + 66},${level - 5}l-7,5l7,5z`} fill="var(--ink)" />
      <text
        x={x + 30}
        y={level + 4}
        textAnchor="middle"
        fontSize={11}
        className="figures"
        stroke="var(--chalk)"
        strokeWidth={3}
        paintOrder="stroke"
      >
        {figure(at_C, "temperature", system)}
      </text>
    </g>
  );
}

type FluidProps = {
  fluid: FluidColumn;
  moment_C: number | undefined;
  x: number;
  y: Scale;
  system: System;
};

function Fluid({ fluid, moment_C, x, y, system }: FluidProps) {
  const left = x + 20;
  const wide = 26;
  const middle = left + wide / 2;
  const value = (at: number) => figure(at, "temperature", system);
  return (
    <g>
      <rect
        x={left}
        y={y(fluid.dry_C)}
        width={wide}
        height={y(0) - y(fluid.dry_C)}
        fill="none"
        stroke="var(--ink)"
      />
      <rect x={left} y={y(fluid.now_C)} width={wide} height={y(0) - y(fluid.now_C)} fill="var(--pad)" />
      <line
        x1={left}
        x2={left + wide}
        y1={y(fluid.wet_C)}
        y2={y(fluid.wet_C)}
        stroke="var(--ink)"
        strokeDasharray="2 2"
      />
      <line
        x1={left - 5}
        x2={left + wide + 5}
        y1={y(fluid.boiling_C)}
        y2={y(fluid.boiling_C)}
        stroke="var(--ink)"
        strokeWidth={2}
      />
      <text x={middle} y={y(fluid.dry_C) - 17} textAnchor="middle" fontSize={10.5} className="muted">
        boils
      </text>
      <text
        x={middle}
        y={y(fluid.dry_C) - 5}
        textAnchor="middle"
        fontSize={11}
        fontWeight={700}
        className="figures"
      >
        {value(fluid.boiling_C)}
      </text>
      <text
        x={middle}
        y={y(fluid.now_C) + 13}
        textAnchor="middle"
        fontSize={11}
        className="figures"
        style={{ fill: "var(--chalk)" }}
      >
        {value(fluid.now_C)}
      </text>
      {moment_C !== undefined && (
        <path d={`M${left - 7},${y(moment_C) - 5}l7,5l-7,5z`} fill="var(--ink)" data-now="" />
      )}
      <text x={middle} y={y(0) + 15} textAnchor="middle" fontSize={11}>
        fluid
      </text>
    </g>
  );
}
