import { Frame } from "./frame";

type Props = {
  kind: string;
  wheelbase_m: number;
  cg_height_m: number;
  front_fraction: number;
  radius_front_m: number;
  radius_rear_m: number;
  front_load_N: number;
  rear_load_N: number;
  decel_g: number;
  hitch: { height_m: number; overhang_m: number; push_N: number; nose_N: number } | null;
  loadText: (newtons: number) => string;
};

/** What a trailer takes of the drawing's width, behind the coupling, in m. */
const TRAILER_M = 2.6;

/** The machine from the side, to scale from its own numbers; arrows are the axle loads while braking, and what a
 * trailer pushes and rests on the coupling with. */
export function SideView(props: Props) {
  const { wheelbase_m, cg_height_m, front_fraction, radius_front_m, radius_rear_m } = props;
  const box = { width: 420, height: 200, left: 0, right: 0, top: 0, bottom: 0 };
  const { hitch } = props;
  const behind = hitch ? Math.max(0, hitch.overhang_m - radius_rear_m) + TRAILER_M : 0;
  const span = wheelbase_m + radius_front_m + radius_rear_m + behind;
  const scale = Math.min((hitch ? 350 : 300) / span, 120 / (cg_height_m + 0.55));
  const ground = 148;
  const rear = (hitch ? 24 : 60) + (behind + radius_rear_m) * scale;
  const front = rear + wheelbase_m * scale;
  const cg = { x: rear + wheelbase_m * front_fraction * scale, y: ground - cg_height_m * scale };
  const total = Math.max(1, props.front_load_N + Math.max(0, props.rear_load_N));
  const arrow = (x: number, load: number, text: string) => {
    const length = Math.max(0, (load / total) * 46);
    return (
      <g>
        <path d={`M${x},${ground + 3}v${length}`} stroke="var(--ink)" strokeWidth={3} />
        <path d={`M${x - 5},${ground + 9}l5,-7l5,7`} fill="none" stroke="var(--ink)" strokeWidth={2} />
        <text x={x + 9} y={ground + 30} fontSize={12} className="figures">
          {text}
        </text>
      </g>
    );
  };
  const body =
    props.kind === "motorcycle"
      ? `M${rear},${ground - radius_rear_m * scale}L${cg.x - 18},${cg.y - 8}L${cg.x + 26},${cg.y - 10}L${front - 10},${cg.y - 26}L${front},${ground - radius_front_m * scale}`
      : `M${rear - radius_rear_m * scale - 8},${ground - 0.24 * scale}v${-0.34 * scale}h${0.3 * scale}l${0.22 * scale},${-0.4 * scale}h${wheelbase_m * 0.42 * scale}l${0.3 * scale},${0.4 * scale}L${front + radius_front_m * scale + 6},${ground - 0.52 * scale}v${0.28 * scale}z`;
  return (
    <Frame box={box} label={`Side view to scale, braking at ${props.decel_g.toFixed(2)} g`}>
      {hitch && <Trailer hitch={hitch} rear={rear} ground={ground} scale={scale} text={props.loadText} />}
      <line x1={20} x2={400} y1={ground} y2={ground} stroke="var(--ink)" />
      <path d={body} fill="none" stroke="var(--ink)" strokeWidth={1.4} strokeLinejoin="round" />
      {[
        { x: rear, r: radius_rear_m * scale },
        { x: front, r: radius_front_m * scale },
      ].map((wheel) => (
        <circle
          key={wheel.x}
          cx={wheel.x}
          cy={ground - wheel.r}
          r={wheel.r}
          fill="var(--chalk)"
          stroke="var(--ink)"
          strokeWidth={1.6}
        />
      ))}
      <circle cx={cg.x} cy={cg.y} r={6} fill="var(--paper)" stroke="var(--ink)" />
      <path
        d={`M${cg.x},${cg.y - 6}a6,6 0 0 1 6,6h-6zM${cg.x},${cg.y + 6}a6,6 0 0 1 -6,-6h6z`}
        fill="var(--ink)"
      />
      <text x={cg.x - 8} y={cg.y + 20} fontSize={11}>
        CG
      </text>
      <path
        d={`M${cg.x},${cg.y}h${60 * Math.min(1.6, props.decel_g)}`}
        stroke="var(--ink)"
        strokeDasharray="3 2"
      />
      <text x={20} y={20} fontSize={12} className="figures">
        braking at {props.decel_g.toFixed(2)} g
      </text>
      {arrow(rear, props.rear_load_N, props.loadText(props.rear_load_N))}
      {arrow(front, props.front_load_N, props.loadText(props.front_load_N))}
    </Frame>
  );
}

type TrailerProps = {
  hitch: NonNullable<Props["hitch"]>;
  rear: number;
  ground: number;
  scale: number;
  text: (newtons: number) => string;
};

/** A trailer on its coupling, its push as an arrow forwards and its nose load as one down. */
function Trailer({ hitch, rear, ground, scale, text }: TrailerProps) {
  const ball = { x: rear - hitch.overhang_m * scale, y: ground - hitch.height_m * scale };
  const wheel = 0.32 * scale;
  const box = ball.x - 0.7 * scale;
  const length = Math.max(0, TRAILER_M - 0.7) * scale;
  return (
    <g data-trailer>
      <path d={`M${ball.x},${ball.y}L${box},${ball.y}`} stroke="var(--ink)" strokeWidth={1.6} />
      <path
        d={`M${box},${ball.y + 0.12 * scale}v${-1.1 * scale}h${-length}v${1.1 * scale}z`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.4}
        strokeLinejoin="round"
      />
      <circle
        cx={box - length / 2}
        cy={ground - wheel}
        r={wheel}
        fill="var(--chalk)"
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      <circle cx={ball.x} cy={ball.y} r={3} fill="var(--ink)" />
      {hitch.push_N > 0 && (
        <path
          d={`M${ball.x + 4},${ball.y - 7}h22m-6,-4l6,4l-6,4`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2}
        />
      )}
      {hitch.nose_N > 0 && (
        <path
          d={`M${ball.x},${ball.y - 26}v18m-4,-6l4,6l4,-6`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2}
        />
      )}
      <text x={20} y={36} fontSize={12} className="figures">
        trailer pushes {text(hitch.push_N)}, nose load {text(hitch.nose_N)}
      </text>
    </g>
  );
}
