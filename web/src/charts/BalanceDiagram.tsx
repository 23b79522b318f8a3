import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { type Box, ColumnAxis, Frame, RowAxis } from "./frame";

type Point = {
  decel_g: number;
  front_installed: number;
  rear_installed: number;
  front_ideal: number;
  rear_ideal: number;
};
type Lock = { first_axle: string; decel_g: number; front_lock_g: number | null; rear_lock_g: number | null };
type Props = {
  curve: Point[];
  /** The installed line with the pads as hot as the duty makes them; empty without a duty. */
  hot: Point[];
  now: { front: number; rear: number; decel_g: number };
  dry: Lock;
  wet: Lock;
  grip: number;
};

const box: Box = { width: 420, height: 348, left: 46, right: 14, top: 24, bottom: 58 };

/** Rear over front brake force, both by the weight they slow: ideal, installed, hot, and where each axle locks. */
export function BalanceDiagram({ curve, hot, now, dry, wet, grip }: Props) {
  const shown = curve.filter((point) => point.decel_g <= grip * 1.35);
  const right = Math.max(0.4, ...shown.map((point) => point.front_installed), now.front) * 1.1;
  const top =
    Math.max(0.2, ...shown.map((point) => Math.max(point.rear_installed, point.rear_ideal)), now.rear) * 1.2;
  const x = scaleLinear([0, right], [box.left, box.width - box.right]);
  const y = scaleLinear([0, top], [box.height - box.bottom, box.top]);
  const inside = (point: Point) => point.front_installed <= right && point.rear_installed <= top;
  const path = (points: Point[], kind: "installed" | "ideal") =>
    line<Point>(
      (point) => x(point[`front_${kind}`]),
      (point) => y(point[`rear_${kind}`]),
    )(points) ?? "";
  return (
    <Frame
      box={box}
      label={`Balance diagram: ${dry.first_axle} locks first at ${dry.decel_g.toFixed(2)} g dry, ${wet.first_axle} at ${wet.decel_g.toFixed(2)} g wet`}
    >
      <RowAxis box={box} domain={[0, top]} count={4} format={(v) => v.toFixed(2)} />
      <ColumnAxis box={box} domain={[0, right]} count={5} format={(v) => v.toFixed(1)} />
      <path
        d={path(
          shown.filter((point) => point.front_ideal <= right && point.rear_ideal <= top),
          "ideal",
        )}
        fill="none"
        stroke="var(--ink)"
        strokeDasharray="5 3"
      />
      <path d={path(shown, "installed")} fill="none" stroke="var(--ink)" strokeWidth={2} />
      {hot.length > 0 && (
        <path
          d={path(
            hot.filter((point) => point.decel_g <= grip * 1.35 && inside(point)),
            "installed",
          )}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.6}
          strokeDasharray="1.5 3"
        />
      )}
      <Locks curve={shown} lock={dry} road="dry" x={x} y={y} />
      <Locks curve={shown} lock={wet} road="wet" x={x} y={y} />
      {now.front <= right && (
        <circle
          cx={x(now.front)}
          cy={y(now.rear)}
          r={5}
          fill="var(--paper)"
          stroke="var(--ink)"
          strokeWidth={2}
        />
      )}
      <text x={box.left} y={14} fontSize={11.5}>
        rear force ÷ weight slowed
      </text>
      <text x={box.width - box.right} y={box.height - 25} fontSize={11.5} textAnchor="end">
        front force ÷ weight slowed
      </text>
      <text x={box.width - box.right} y={box.height - 7} fontSize={11} textAnchor="end" className="muted">
        installed solid, hot dotted, ideal dashed · × first to lock, + second · ○ this force
      </text>
    </Frame>
  );
}

type LocksProps = {
  curve: Point[];
  lock: Lock;
  road: string;
  x: (value: number) => number;
  y: (value: number) => number;
};

/** Where each axle locks on one road: a cross for the first, a plus for the second. */
function Locks({ curve, lock, road, x, y }: LocksProps) {
  return (["front", "rear"] as const).map((axle) => {
    const at = lock[`${axle}_lock_g`];
    const point = at === null ? undefined : curve.find((entry) => entry.decel_g >= at);
    if (at === null || !point) return null;
    const [cx, cy] = [x(point.front_installed), y(point.rear_installed)];
    const first = lock.first_axle === axle;
    const mark = first ? `M${cx - 5},${cy - 5}l10,10m0,-10l-10,10` : `M${cx - 5},${cy}h10m-5,-5v10`;
    return (
      <g key={axle}>
        <path d={mark} stroke="var(--ink)" strokeWidth={first ? 2 : 1.4} />
        {first && (
          <text x={cx - 8} y={cy - 10} fontSize={11} textAnchor={cx < 150 ? "start" : "end"}>
            {road}: {axle}, {at.toFixed(2)} g
          </text>
        )}
      </g>
    );
  });
}
