// What a ring can show after bedding, drawn: half a ring from the front, each look by its own marks.

const SIZE = 92;
const MIDDLE = SIZE / 2;
const OUTER = 42;
const INNER = 24;
const BAND = (OUTER + INNER) / 2;

const spot = (angle: number, radius: number) => [
  MIDDLE + radius * Math.cos(angle),
  MIDDLE + radius * Math.sin(angle),
];
const turn = (share: number) => 2 * Math.PI * share;

const grey = "var(--hairline)";

/** One look of a ring, by its name. */
export function RingLook({ look }: { look: string }) {
  return (
    <svg width={SIZE} height={SIZE} viewBox={`0 0 ${SIZE} ${SIZE}`} aria-hidden="true" className="shrink-0">
      <circle cx={MIDDLE} cy={MIDDLE} r={BAND} fill="none" stroke={grey} strokeWidth={OUTER - INNER} />
      {look === "even" && (
        <circle
          cx={MIDDLE}
          cy={MIDDLE}
          r={BAND}
          fill="none"
          stroke="var(--muted)"
          strokeWidth={14}
          opacity={0.75}
        />
      )}
      {look === "patches" &&
        [0.02, 0.3, 0.55, 0.8].map((from) => <Arc key={from} from={from} long={0.12} wide={15} />)}
      {look === "blue" && <Spots colour="#3d5a9a" />}
      {look === "copper" &&
        [27, 31.5, 37].map((radius) => <Streak key={radius} radius={radius} colour="#a8672d" wide={2} />)}
      {look === "black" &&
        [26.5, 30, 34.5, 39].map((radius) => (
          <Streak key={radius} radius={radius} colour="var(--ink)" wide={2.4} />
        ))}
      {look === "judder" && (
        <>
          <circle
            cx={MIDDLE}
            cy={MIDDLE}
            r={BAND}
            fill="none"
            stroke="var(--muted)"
            strokeWidth={14}
            opacity={0.4}
          />
          {[0.1, 0.6].map((from) => (
            <Arc key={from} from={from} long={0.14} wide={14} />
          ))}
          <path d={`M4 ${SIZE - 4} q6 -6 12 0 t12 0 t12 0 t12 0`} fill="none" stroke="var(--ink)" />
        </>
      )}
      {look === "cracks" &&
        [0.05, 0.2, 0.43, 0.7].map((share) => (
          <Crack key={share} angle={turn(share)} whole={share === 0.2} />
        ))}
      <circle cx={MIDDLE} cy={MIDDLE} r={OUTER} fill="none" stroke="var(--ink)" strokeWidth={1.3} />
      <circle cx={MIDDLE} cy={MIDDLE} r={INNER} fill="var(--chalk)" stroke="var(--ink)" strokeWidth={1.3} />
      {[0, 0.2, 0.4, 0.6, 0.8].map((share) => {
        const [cx, cy] = spot(turn(share) - Math.PI / 2, 14);
        return <circle key={share} cx={cx} cy={cy} r={2.2} fill="none" stroke="var(--ink)" />;
      })}
    </svg>
  );
}

function Arc({ from, long, wide }: { from: number; long: number; wide: number }) {
  const [x0, y0] = spot(turn(from), BAND);
  const [x1, y1] = spot(turn(from + long), BAND);
  return (
    <path
      d={`M${x0} ${y0} A${BAND} ${BAND} 0 0 1 ${x1} ${y1}`}
      fill="none"
      stroke="var(--muted)"
      strokeWidth={wide}
      opacity={0.9}
    />
  );
}

function Spots({ colour }: { colour: string }) {
  return [0.04, 0.17, 0.29, 0.46, 0.58, 0.71, 0.88].map((share, place) => {
    const [cx, cy] = spot(turn(share), BAND + (place % 2 ? 3 : -3));
    return <ellipse key={share} cx={cx} cy={cy} rx={4.4} ry={3.4} fill={colour} opacity={0.85} />;
  });
}

function Streak({ radius, colour, wide }: { radius: number; colour: string; wide: number }) {
  return (
    <circle
      cx={MIDDLE}
      cy={MIDDLE}
      r={radius}
      fill="none"
      stroke={colour}
      strokeWidth={wide}
      strokeDasharray="46 9 22 5"
      opacity={0.85}
    />
  );
}

function Crack({ angle, whole }: { angle: number; whole: boolean }) {
  const from = whole ? INNER : INNER + 4;
  const to = whole ? OUTER : INNER + 11;
  const points = [0, 1, 2, 3].map((step) =>
    spot(angle + (step % 2 ? 0.05 : -0.02), from + ((to - from) * step) / 3).join(","),
  );
  return <polyline points={points.join(" ")} fill="none" stroke="var(--over)" strokeWidth={1.8} />;
}
