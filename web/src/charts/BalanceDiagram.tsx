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
type Props = {
  curve: Point[];
  now: { front: number; rear: number; decel_g: number };
  lock: { first_axle: string; decel_g: number };
  grip: number;
};

const box: Box = { width: 420, height: 330, left: 46, right: 14, top: 24, bottom: 40 };

/** Rear over front brake force, both by the vehicle's weight: the ideal curve, the installed line, where it locks. */
export function BalanceDiagram({ curve, now, lock, grip }: Props) {
  const shown = curve.filter((point) => point.decel_g <= grip * 1.35);
  const right = Math.max(0.4, ...shown.map((point) => point.front_installed), now.front) * 1.1;
  const top =
    Math.max(0.2, ...shown.map((point) => Math.max(point.rear_installed, point.rear_ideal)), now.rear) * 1.2;
  const x = scaleLinear([0, right], [box.left, box.width - box.right]);
  const y = scaleLinear([0, top], [box.height - box.bottom, box.top]);
  const locking = shown.find((point) => point.decel_g >= lock.decel_g);
  const ideal = line<Point>(
    (point) => x(point.front_ideal),
    (point) => y(point.rear_ideal),
  )(shown.filter((point) => point.front_ideal <= right));
  const installed = line<Point>(
    (point) => x(point.front_installed),
    (point) => y(point.rear_installed),
  )(shown);
  return (
    <Frame
      box={box}
      label={`Balance diagram: the ${lock.first_axle} axle locks first at ${lock.decel_g.toFixed(2)} g`}
    >
      <RowAxis box={box} domain={[0, top]} count={4} format={(v) => v.toFixed(2)} />
      <ColumnAxis box={box} domain={[0, right]} count={5} format={(v) => v.toFixed(1)} />
      <path d={ideal ?? ""} fill="none" stroke="var(--ink)" strokeDasharray="5 3" />
      <path d={installed ?? ""} fill="none" stroke="var(--ink)" strokeWidth={2} />
      {locking && lock.first_axle !== "none" && (
        <g>
          <path
            d={`M${x(locking.front_installed) - 5},${y(locking.rear_installed) - 5}l10,10m0,-10l-10,10`}
            stroke="var(--ink)"
            strokeWidth={2}
          />
          <text
            x={x(locking.front_installed) - 8}
            y={y(locking.rear_installed) - 10}
            fontSize={11.5}
            textAnchor="end"
          >
            {lock.first_axle} locks, {lock.decel_g.toFixed(2)} g
          </text>
        </g>
      )}
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
        rear force ÷ weight
      </text>
      <text x={box.width - box.right} y={box.height - 6} fontSize={11.5} textAnchor="end">
        front force ÷ weight · installed solid, ideal dashed, ○ this pedal force
      </text>
    </Frame>
  );
}
