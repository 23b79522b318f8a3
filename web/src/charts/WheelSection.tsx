type Props = {
  rotorNew_m: number;
  rotor_m: number | null;
  padNew_m: number;
  change_m: number;
  inner_m: number | null;
  outer_m: number | null;
  /** The machine's middle is on the right: a left wheel seen from above. */
  mirrored: boolean;
};

const WIDTH = 150;
const HEIGHT = 150;
const BACKING_MM = 5.5;

/** A disc between its pads, cut through and to scale; a pad nobody measured is drawn hollow, as new. */
export function WheelSection({ rotorNew_m, rotor_m, padNew_m, change_m, inner_m, outer_m, mirrored }: Props) {
  const mm = (value: number) => 1000 * value;
  const scale = Math.min(3.4, (WIDTH - 12) / (mm(rotorNew_m) + 2 * (mm(padNew_m) + BACKING_MM)));
  const middle = WIDTH / 2;
  const half = (mm(rotor_m ?? rotorNew_m) * scale) / 2;
  const left = mirrored ? outer_m : inner_m;
  const right = mirrored ? inner_m : outer_m;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT + 18}`}
      className="block w-full max-w-38"
      role="img"
      aria-label="Disc and pads to scale"
    >
      <rect
        x={middle - half}
        y={6}
        width={2 * half}
        height={HEIGHT - 12}
        fill="var(--paper)"
        stroke="var(--ink)"
      />
      <line x1={middle} x2={middle} y1={8} y2={HEIGHT - 8} stroke="var(--hairline)" strokeDasharray="2 3" />
      <Pad x={middle - half} way={-1} value_m={left} new_m={padNew_m} change_m={change_m} scale={scale} />
      <Pad x={middle + half} way={1} value_m={right} new_m={padNew_m} change_m={change_m} scale={scale} />
      {[mirrored ? "outer" : "inner", mirrored ? "inner" : "outer"].map((name, index) => (
        <text
          key={name}
          x={index === 0 ? 4 : WIDTH - 4}
          y={HEIGHT + 13}
          textAnchor={index === 0 ? "start" : "end"}
          fontSize={11}
          className="muted"
        >
          {name}
        </text>
      ))}
    </svg>
  );
}

type PadProps = {
  x: number;
  way: 1 | -1;
  value_m: number | null;
  new_m: number;
  change_m: number;
  scale: number;
};

function Pad({ x, way, value_m, new_m, change_m, scale }: PadProps) {
  const thick = 1000 * (value_m ?? new_m) * scale;
  const plate = BACKING_MM * scale;
  const box = (from: number, width: number) => (way > 0 ? from : from - width);
  const edge = x + way * thick;
  return (
    <g>
      <rect
        x={box(x, thick)}
        y={34}
        width={thick}
        height={HEIGHT - 68}
        fill={value_m === null ? "none" : "var(--pad)"}
        stroke="var(--ink)"
        strokeDasharray={value_m === null ? "3 3" : undefined}
      />
      <rect
        x={box(edge, plate)}
        y={30}
        width={plate}
        height={HEIGHT - 60}
        fill={value_m === null ? "none" : "var(--ink)"}
        stroke="var(--ink)"
        strokeDasharray={value_m === null ? "3 3" : undefined}
      />
      <line
        x1={x + way * 1000 * change_m * scale}
        x2={x + way * 1000 * change_m * scale}
        y1={26}
        y2={HEIGHT - 26}
        stroke="var(--over)"
        strokeDasharray="4 2"
      />
    </g>
  );
}
