import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useState } from "react";
import { axisClock } from "../lib/text";
import { figure, type Quantity, type System, shownRange, unitOf } from "../lib/units";
import { type Box, ColumnAxis, dashes, Frame, Measured, RowAxis, timeTicks } from "./frame";

export type ComparedTrace = { name: string; values: number[] };
type Props = {
  t_s: number[];
  traces: ComparedTrace[];
  label: string;
  quantity: Quantity | "mu";
  system: System;
  /** Which of the times the cursor stands at. */
  onCursor?: (index: number) => void;
};

const SHARE_SHOWN = 0.04;

/** The same number of several sets over the duty, with one cursor through all of them. */
export function CompareTraces(props: Props) {
  return <Measured initial={700}>{(width) => <Drawn {...props} width={width} />}</Measured>;
}

function Drawn({ t_s, traces, label, quantity, system, onCursor, width }: Props & { width: number }) {
  const [at, put] = useState<number | null>(null);
  const setAt = (index: number) => {
    put(index);
    onCursor?.(index);
  };
  const box: Box = { width, height: 240, left: 46, right: 14, top: 12, bottom: 24 };
  const end = t_s.at(-1) ?? 1;
  const clock = axisClock(end);
  const values = traces.flatMap((trace) => trace.values);
  const low = Math.min(0, ...values);
  const high = Math.max(...values, quantity === "mu" ? 0.1 : 1) * 1.06;
  const x = scaleLinear([0, end], [box.left, box.width - box.right]);
  const y = scaleLinear([low, high], [box.height - box.bottom, box.top]);
  const say = (value: number) =>
    quantity === "mu"
      ? value.toFixed(2)
      : `${figure(value, quantity, system)} ${unitOf(quantity, system).symbol}`;
  const path = line<number>()
    .x((_, index) => x(t_s[index] ?? 0))
    .y((value) => y(value));
  // Without a cursor: where the first of them is highest.
  const first = traces[0]?.values ?? [];
  const index = at ?? first.indexOf(Math.max(...first));
  const move = (by: number) => setAt(Math.min(t_s.length - 1, Math.max(0, index + by)));
  const nearest = (clientX: number, svg: Element) => {
    const bounds = svg.getBoundingClientRect();
    const time = x.invert(((clientX - bounds.left) / bounds.width) * width);
    setAt(t_s.reduce((best, t, i) => (Math.abs(t - time) < Math.abs((t_s[best] ?? 0) - time) ? i : best), 0));
  };
  return (
    <div>
      <div
        role="slider"
        tabIndex={0}
        aria-label={`${label}, moment of the duty`}
        aria-valuemin={0}
        aria-valuemax={Math.round(end)}
        aria-valuenow={Math.round(t_s[index] ?? 0)}
        aria-valuetext={`${clock.format(t_s[index] ?? 0)}: ${traces.map((trace) => `${trace.name} ${say(trace.values[index] ?? 0)}`).join(", ")}`}
        onKeyDown={(event) => {
          const step = Math.max(1, Math.round(t_s.length * (event.shiftKey ? SHARE_SHOWN : 0)));
          if (event.key === "ArrowRight") move(step);
          else if (event.key === "ArrowLeft") move(-step);
          else if (event.key === "Home") setAt(0);
          else if (event.key === "End") setAt(t_s.length - 1);
          else return;
          event.preventDefault();
        }}
        onPointerMove={(event) => nearest(event.clientX, event.currentTarget)}
        onPointerDown={(event) => nearest(event.clientX, event.currentTarget)}
      >
        <Frame box={box} label={`${label} of ${traces.map((trace) => trace.name).join(", ")}`}>
          <RowAxis
            box={box}
            domain={quantity === "mu" ? [low, high] : shownRange([low, high], quantity, system)}
            format={String}
          />
          <ColumnAxis box={box} domain={[0, end]} ticks={timeTicks(end)} format={clock.format} />
          {traces.map((trace, number) => (
            <path
              key={trace.name}
              d={path(trace.values) ?? ""}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={number === 0 ? 1.8 : 1.2}
              strokeDasharray={dashes[number]}
            />
          ))}
          <line
            x1={x(t_s[index] ?? 0)}
            x2={x(t_s[index] ?? 0)}
            y1={box.top}
            y2={box.height - box.bottom}
            stroke="var(--ink)"
            strokeWidth={0.8}
          />
          {traces.map((trace) => (
            <circle
              key={trace.name}
              cx={x(t_s[index] ?? 0)}
              cy={y(trace.values[index] ?? 0)}
              r={3.5}
              fill="var(--chalk)"
              stroke="var(--ink)"
            />
          ))}
        </Frame>
      </div>
      <p className="flex flex-wrap gap-x-5" data-cursor>
        <span className="condensed text-muted">at {clock.format(t_s[index] ?? 0)}</span>
        {traces.map((trace, number) => (
          <span key={trace.name} className="flex items-center gap-1.5">
            <svg width="34" height="8" aria-hidden="true">
              <line
                x1="0"
                x2="34"
                y1="4"
                y2="4"
                stroke="var(--ink)"
                strokeWidth={number === 0 ? 2 : 1.4}
                strokeDasharray={dashes[number]}
              />
            </svg>
            {trace.name} <span className="figures font-semibold">{say(trace.values[index] ?? 0)}</span>
          </span>
        ))}
      </p>
    </div>
  );
}
