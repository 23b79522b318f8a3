import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Failure, GroupTitle } from "../../ui/basics";
import { useChangeMachine, useMachine } from "../machine/queries";
import { PathField } from "./Measured";
import type { AxleFit } from "./queries";

const schools: Record<AxleFit["push"]["school"], string> = {
  watch: "Cap off and watch",
  "draw off": "Draw off first",
  "bleed screw": "Bleed screw open while pushing back",
};

/** The fluid that comes back as the pistons go home, corner by corner, against the room in the reservoir. */
export function Pushed({ machineId, axle }: { machineId: number; axle: AxleFit }) {
  const units = useUnits();
  const machine = useMachine(machineId).data;
  const change = useChangeMachine(machineId);
  const { push } = axle;
  if (axle.is_on) return null;
  const values = machine?.values ?? {};
  return (
    <section aria-label="Fluid pushed back">
      <GroupTitle>Fluid pushed back</GroupTitle>
      <div className="flex gap-4">
        <Reservoir push={push} />
        <div className="min-w-0">
          <p className="font-semibold">{schools[push.school]}</p>
          <p className="condensed">{units.say(push.reason)}</p>
        </div>
      </div>
      <ul className="condensed mt-2 text-muted">
        <li>
          {push.corners
            .map((corner) => `${corner.wheel} ${units.withUnit(corner.volume_m3, "fluidVolume")}`)
            .join(" + ")}{" "}
          = {units.withUnit(push.total_m3, "fluidVolume")}, room to the brim{" "}
          {units.withUnit(push.room_m3, "fluidVolume")}
          {push.after > 0 && `: it runs over at corner ${push.after}`}
        </li>
        {push.remarks.map((remark) => (
          <li key={remark.template}>◐ {units.say(remark)}</li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-4" data-boxes>
        <PathField
          path={`${push.path}.reservoir_level`}
          label="Level today"
          hint="0 lower mark, 100 full, 125 brim"
          quantity="percent"
          values={values}
          change={change}
        />
        <PathField
          path={`${push.path}.reservoir_m3`}
          label="Between the marks"
          hint="fill it from mark to mark"
          quantity="fluidVolume"
          values={values}
          change={change}
        />
      </div>
      {change.error && <Failure text={problemText(change.error)} />}
      <p className="condensed mt-2 text-muted">
        Brake fluid eats paint and skin: water at hand, rags round the reservoir.
      </p>
    </section>
  );
}

const TALL = 96;

/** The reservoir: its marks, today's level, and where the level would stand with the fluid pushed back. */
function Reservoir({ push }: { push: AxleFit["push"] }) {
  const brim = 1.25;
  const y = (level: number) => 4 + TALL * (1 - Math.min(level, brim + 0.06) / (brim + 0.06));
  const level = push.level ?? 1;
  const after = level + push.total_m3 / push.marks_m3;
  return (
    <svg
      viewBox={`0 0 84 ${TALL + 10}`}
      className="w-21 shrink-0"
      role="img"
      aria-label="Reservoir, to scale"
    >
      <rect
        x={1}
        y={y(level)}
        width={50}
        height={TALL + 4 - y(level)}
        fill="var(--pad)"
        fillOpacity={push.level === null ? 0.35 : 1}
      />
      <rect
        x={1}
        y={y(after)}
        width={50}
        height={Math.max(0, y(level) - y(after))}
        fill={after > brim ? "var(--over)" : "var(--close-fill)"}
        fillOpacity={0.55}
      />
      <path
        d={`M1 ${y(brim)} V${TALL + 4} H51 V${y(brim)}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      {(
        [
          ["brim", brim],
          ["full", 1],
          ["low", 0.02],
        ] as const
      ).map(([name, at]) => (
        <g key={name}>
          <line x1={1} x2={54} y1={y(at)} y2={y(at)} stroke="var(--ink)" strokeDasharray="3 2" />
          <text x={57} y={y(at) + 4} fontSize={11.5} className="muted">
            {name}
          </text>
        </g>
      ))}
    </svg>
  );
}
