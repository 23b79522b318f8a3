import { Measured } from "./frame";

type Props = {
  opening_m: number;
  discard_m: number;
  plate_m: number;
  change_m: number;
  travel_m: number;
  depth_m: number;
  hold_m: number;
  opposed: boolean;
  held: boolean;
  label: string;
  text: (value_m: number) => string;
};

const TALL = 84;
const TOP = 8;

/** The same caliper with the rotor at discard and the pads at change: how far the pistons stand out, to scale. */
export function EndDrawing(props: Props) {
  return <Measured initial={640}>{(width) => <Drawn {...props} width={Math.min(width, 760)} />}</Measured>;
}

function Drawn(props: Props & { width: number }) {
  const { opening_m, discard_m, plate_m, change_m, travel_m, depth_m, hold_m, opposed } = props;
  const bores = opposed ? 2 : 1;
  const fingers = opposed ? 0 : 30;
  const scale = (props.width - 12 - fingers) / (opening_m + bores * depth_m);
  const from = 6 + depth_m * scale;
  const to = from + opening_m * scale;
  // The ring runs between pads that rest on pistons; in a sliding caliper the outer one rests on the fingers.
  const left = from + travel_m * scale;
  const widths = [plate_m, change_m, discard_m, change_m, plate_m].map((value) => value * scale);
  const fills = ["var(--ink)", "var(--pad)", "var(--paper)", "var(--pad)", "var(--ink)"];
  let x = left;
  return (
    <svg
      viewBox={`0 0 ${props.width} ${TOP + TALL + 34}`}
      className="block h-auto w-full"
      role="img"
      aria-label={props.label}
    >
      <Bore
        at={from}
        way={-1}
        travel={travel_m * scale}
        depth={depth_m * scale}
        hold={hold_m * scale}
        held={props.held}
      />
      {opposed ? (
        <Bore
          at={to}
          way={1}
          travel={travel_m * scale}
          depth={depth_m * scale}
          hold={hold_m * scale}
          held={props.held}
        />
      ) : (
        <rect
          x={to}
          y={TOP}
          width={fingers}
          height={TALL}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.5}
        />
      )}
      {widths.map((width, index) => {
        const at = x;
        x += width;
        return (
          <rect
            // biome-ignore lint/suspicious/noArrayIndexKey: five parts in a fixed order
            key={index}
            x={at}
            y={TOP + (index === 2 ? -4 : 10)}
            width={width}
            height={TALL - (index === 2 ? -8 : 20)}
            fill={fills[index]}
            stroke="var(--ink)"
          />
        );
      })}
      <text
        x={from + (travel_m * scale) / 2}
        y={TOP + TALL + 26}
        textAnchor="middle"
        fontSize={12.5}
        className="figures"
      >
        {props.text(travel_m)} out
      </text>
    </svg>
  );
}

type BoreProps = { at: number; way: 1 | -1; travel: number; depth: number; hold: number; held: boolean };

/** A bore with its piston run out, and a line where its end must stay behind. */
function Bore({ at, way, travel, depth, hold, held }: BoreProps) {
  const box = (offset: number, width: number) => (way > 0 ? at + offset : at - offset - width);
  // From the bore's mouth inwards, what is out counting below nothing.
  const line = way > 0 ? at + hold : at - hold;
  return (
    <g strokeWidth={1.5}>
      <rect x={box(0, depth)} y={TOP} width={depth} height={TALL} fill="none" stroke="var(--ink)" />
      <rect
        x={box(-travel, depth)}
        y={TOP + 24}
        width={depth}
        height={TALL - 48}
        fill="var(--chalk)"
        stroke={held ? "var(--ink)" : "var(--over)"}
      />
      <line x1={line} x2={line} y1={TOP - 4} y2={TOP + TALL + 4} stroke="var(--over)" strokeDasharray="4 3" />
      <text x={line} y={TOP + TALL + 16} textAnchor="middle" fontSize={11.5} className="muted">
        seal holds
      </text>
    </g>
  );
}
