import { scaleLinear } from "d3-scale";
import { type ReactNode, useEffect, useRef, useState } from "react";

/** Lines told apart by dashes, for those who do not see colours apart; the first is solid. */
export const dashes = ["", "7 3", "2 3", "10 3 2 3", "4 6", "14 4"];

export type Box = { width: number; height: number; left: number; right: number; top: number; bottom: number };

/** Gives its children the width there is, so that a plot's lettering keeps its size from desk to phone. */
export function Measured({ initial, children }: { initial: number; children: (width: number) => ReactNode }) {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(initial);
  useEffect(() => {
    if (!ref.current || typeof ResizeObserver === "undefined") return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) setWidth(Math.max(240, Math.round(entry.contentRect.width)));
    });
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return <div ref={ref}>{children(width)}</div>;
}

type FrameProps = { box: Box; label: string; children: ReactNode };

/** The SVG every plot stands in: it scales with its column, keeps its shape and says what it shows. */
export function Frame({ box, label, children }: FrameProps) {
  return (
    <svg
      viewBox={`0 0 ${box.width} ${box.height}`}
      role="img"
      aria-label={label}
      className="block h-auto w-full"
    >
      {children}
    </svg>
  );
}

type AxisProps = {
  box: Box;
  domain: [number, number];
  count?: number;
  format: (value: number) => string;
  side?: "left" | "right";
  grid?: boolean;
};

/** Horizontal lines with their figures on one side. */
export function RowAxis({ box, domain, count = 5, format, side = "left", grid = true }: AxisProps) {
  const y = scaleLinear(domain, [box.height - box.bottom, box.top]);
  const x = side === "left" ? box.left - 6 : box.width - box.right + 6;
  return (
    <g>
      {y.ticks(count).map((tick) => (
        <g key={tick}>
          {grid && (
            <line
              x1={box.left}
              x2={box.width - box.right}
              y1={y(tick)}
              y2={y(tick)}
              stroke="var(--hairline)"
            />
          )}
          <text
            x={x}
            y={y(tick) + 4}
            fontSize={11}
            textAnchor={side === "left" ? "end" : "start"}
            className="figures muted"
          >
            {format(tick)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Round times for an axis that ends at `end` seconds: minutes, not powers of ten. */
export function timeTicks(end: number): number[] {
  const step = [10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600].find((s) => end / s <= 8) ?? 7200;
  return Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step);
}

/** Figures along the bottom. */
export function ColumnAxis({
  box,
  domain,
  count = 6,
  format,
  ticks,
}: Omit<AxisProps, "side" | "grid"> & { ticks?: number[] }) {
  const x = scaleLinear(domain, [box.left, box.width - box.right]);
  const y = box.height - box.bottom;
  return (
    <g>
      <line x1={box.left} x2={box.width - box.right} y1={y} y2={y} stroke="var(--ink)" />
      {(ticks ?? x.ticks(count)).map((tick) => (
        <text key={tick} x={x(tick)} y={y + 15} fontSize={11} textAnchor="middle" className="figures muted">
          {format(tick)}
        </text>
      ))}
    </g>
  );
}
