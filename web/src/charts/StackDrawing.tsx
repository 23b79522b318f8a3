import { Measured } from "./frame";

export type StackPart = {
  name: string;
  value_m: number;
  kind: "plate" | "friction" | "ring" | "shim" | "gap";
};

type Props = {
  opening_m: number | null;
  /** The opening is at least that: nobody measured it. */
  bound: boolean;
  parts: StackPart[];
  room_m: number | null;
  verdict: "fits" | "tight" | "does not fit" | "not known";
  /** Pistons on both sides. */
  opposed: boolean;
  label: string;
  openingText: string;
  roomText: string;
  text: (value_m: number) => string;
};

const TOP = 26;
const TALL = 128;

const fills = {
  plate: "var(--ink)",
  friction: "var(--pad)",
  ring: "var(--paper)",
  shim: "var(--muted)",
  gap: "none",
};

/** What is to stand in a caliper, cut through and to scale: part by part across the opening, and what is left or over. */
export function StackDrawing(props: Props) {
  return <Measured initial={640}>{(width) => <Drawn {...props} width={Math.min(width, 760)} />}</Measured>;
}

function Drawn(props: Props & { width: number }) {
  const { opening_m, parts, room_m, verdict, width: across } = props;
  const body = across < 480 ? 22 : 46;
  const total = parts.reduce((sum, part) => sum + part.value_m, 0);
  const widest = Math.max(opening_m ?? 0, total);
  const scale = (across - 2 * body - 16) / widest;
  const from = body + 4;
  const open = opening_m === null ? null : from + opening_m * scale;
  // Parts stand against the pistons; what is over reaches into the other side.
  let x = from;
  const boxes = parts.map((part) => {
    const box = { part, x, width: part.value_m * scale };
    x += box.width;
    return box;
  });
  const end = x;
  const over = verdict === "does not fit" && open !== null && end > open;
  return (
    <svg
      viewBox={`0 0 ${across} ${TOP + TALL + 50}`}
      className="block h-auto w-full"
      role="img"
      aria-label={props.label}
    >
      <defs>
        <pattern id="over" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" fill="var(--chalk)" />
          <line x1="0" x2="0" y1="0" y2="7" stroke="var(--over)" strokeWidth="5" />
        </pattern>
      </defs>
      <Body x={from} way={-1} body={body} piston />
      {open !== null && <Body x={open} way={1} body={body} piston={props.opposed} dashed={props.bound} />}
      {open !== null && (
        <g>
          <line
            x1={from}
            x2={open}
            y1={TOP - 9}
            y2={TOP - 9}
            stroke="var(--ink)"
            strokeDasharray={props.bound ? "4 3" : undefined}
          />
          {[from, open].map((at) => (
            <line key={at} x1={at} x2={at} y1={TOP - 14} y2={TOP - 4} stroke="var(--ink)" />
          ))}
          <text x={(from + open) / 2} y={TOP - 14} textAnchor="middle" fontSize={12.5} className="figures">
            {props.openingText}
          </text>
        </g>
      )}
      {boxes.map(({ part, x: left, width }, index) => {
        const ring = part.kind === "ring";
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: parts stand in a fixed order, two of each name
          <g key={index}>
            <rect
              x={left}
              y={TOP + (ring ? 0 : 16)}
              width={width}
              height={TALL - (ring ? 0 : 32)}
              fill={fills[part.kind]}
              stroke={part.kind === "gap" ? "none" : "var(--ink)"}
              data-part={part.name}
            />
            {part.kind !== "gap" && width > 7.5 * props.text(part.value_m).length && (
              <text
                x={left + width / 2}
                y={TOP + TALL + 16}
                textAnchor="middle"
                fontSize={12.5}
                className="figures"
              >
                {props.text(part.value_m)}
              </text>
            )}
            {part.kind !== "gap" && width > 5.4 * part.name.length && (
              <text
                x={left + width / 2}
                y={TOP + TALL + 31}
                textAnchor="middle"
                fontSize={11.5}
                className="muted"
              >
                {part.name}
              </text>
            )}
          </g>
        );
      })}
      {over && open !== null && (
        <g>
          <rect
            x={open}
            y={TOP - 3}
            width={end - open}
            height={TALL + 6}
            fill="url(#over)"
            stroke="var(--over)"
            strokeWidth={1.5}
          />
          <text
            x={Math.min(end + 6, across - 2)}
            y={TOP + TALL + 44}
            textAnchor="end"
            fontSize={13}
            fontWeight={650}
            style={{ fill: "var(--over)" }}
          >
            {props.roomText}
          </text>
        </g>
      )}
      {!over && open !== null && room_m !== null && room_m > 0 && (
        <text
          x={open}
          y={TOP + TALL + 44}
          textAnchor="end"
          fontSize={13}
          fontWeight={650}
          style={{ fill: verdict === "fits" ? "var(--fine)" : "var(--close)" }}
        >
          {props.roomText}
        </text>
      )}
    </svg>
  );
}

type BodyProps = { x: number; way: 1 | -1; body: number; piston: boolean; dashed?: boolean };

/** One side of the caliper: its casting, and a piston fully home in it. */
function Body({ x, way, body, piston, dashed }: BodyProps) {
  const box = (offset: number, width: number) => (way > 0 ? x + offset : x - offset - width);
  return (
    <g fill="none" stroke="var(--ink)" strokeWidth={1.5} strokeDasharray={dashed ? "5 3" : undefined}>
      <rect x={box(0, body)} y={TOP + 6} width={body} height={TALL - 12} />
      {piston && <rect x={box(0, body - 8)} y={TOP + 38} width={body - 8} height={TALL - 76} />}
    </g>
  );
}
