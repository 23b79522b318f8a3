import { type ReactNode, useEffect, useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { BalanceDiagram } from "../../charts/BalanceDiagram";
import { ChainDrawing } from "../../charts/ChainDrawing";
import { SideView } from "../../charts/SideView";
import { useUnits } from "../../lib/settings";
import { withUnit } from "../../lib/units";
import { type State, StateWord } from "../../ui/basics";
import { RuleSlider } from "../../ui/RuleSlider";
import { Why } from "../verdict";
import { useBalance } from "./queries";

type Props = {
  machine: Schemas["MachineOut"];
  drafts: Record<string, number | null>;
  pedal: number;
  onPedal: (pedal: number) => void;
};

/** What the pedal gives, computed while the numbers are being typed. */
export function Live({ machine, drafts, pedal, onPedal }: Props) {
  const units = useUnits();
  const most = machine.values["hydraulics.max_pedal_force_N"] ?? 500;
  const [asked, setAsked] = useState({ pedal_force_N: pedal, rotor_C: 200, changes: drafts });
  // A short pause, so that a number half typed is not asked about.
  useEffect(() => {
    const timer = setTimeout(() => setAsked({ pedal_force_N: pedal, rotor_C: 200, changes: drafts }), 200);
    return () => clearTimeout(timer);
  }, [pedal, drafts]);
  const balance = useBalance(machine.id, asked);
  // Every path asked for below holds a number on every machine.
  const value = (path: string) => drafts[path] ?? machine.values[path] ?? 0;
  const data = balance.data;
  const rider = machine.kind === "motorcycle";
  // Numbers that are not saved yet are not the machine's: they can be opened once they are.
  const saved = Object.keys(drafts).length === 0;
  const why: Opener = (topic, text) =>
    saved ? (
      <Why topic={topic} pedal_force_N={pedal} rotor_C={200}>
        {text}
      </Why>
    ) : (
      text
    );
  return (
    <section
      aria-label="What the pedal gives"
      className="order-1 xl:sticky xl:top-0 xl:order-2 xl:max-h-dvh xl:self-start xl:overflow-y-auto xl:pb-4"
    >
      <RuleSlider
        label={rider ? "Force on lever and pedal, each" : "Pedal force"}
        value={pedal}
        min={0}
        max={most}
        step={10}
        shown={units.withUnit(pedal, "force")}
        onChange={onPedal}
        onCommit={onPedal}
      />
      {balance.error && <StateWord state="over">{problemText(balance.error)}</StateWord>}
      {data && (
        <div className="grid gap-x-8 lg:max-xl:grid-cols-2">
          <div>
            <Chain data={data} rider={rider} why={why} />
            <dl className="divide-y divide-hairline border-b border-hairline" aria-live="polite">
              <Line
                from="Deceleration it asks for"
                value={why("decel", `${data.statics.decel_g.toFixed(2)} g`)}
              />
              <Line
                from="Adhesion used, front · rear"
                value={`${data.statics.front_adhesion.toFixed(2)} · ${data.statics.rear_adhesion?.toFixed(2) ?? "lifted"}`}
              />
              <Line
                from={rider ? "Lever travel to the pads" : "Pedal travel to the pads"}
                value={why(
                  "travel",
                  `about ${units.withUnit(data.chain.pedal_travel_m, "thickness", units.system === "metric" ? 0 : 1)}`,
                )}
              />
            </dl>
            <Words data={data} kind={machine.kind} />
            <SideView
              kind={machine.kind}
              wheelbase_m={value("vehicle.wheelbase_m")}
              cg_height_m={value("vehicle.cg_height_m")}
              front_fraction={value("vehicle.front_fraction")}
              radius_front_m={value("vehicle.wheel_radius_front_m")}
              radius_rear_m={value("vehicle.wheel_radius_rear_m")}
              front_load_N={data.front_load_N}
              rear_load_N={data.rear_load_N}
              decel_g={data.statics.decel_g}
              hitch={
                machine.towing
                  ? {
                      height_m: value("trailer.hitch_height_m"),
                      overhang_m: value("trailer.hitch_overhang_m"),
                      push_N: data.push_N,
                      nose_N: value("trailer.nose_load_N"),
                    }
                  : null
              }
              loadText={(newtons) => units.withUnit(newtons, "force")}
            />
          </div>
          <BalanceDiagram
            curve={data.curve}
            hot={data.hot_curve}
            now={{
              front: data.statics.front_force_N / data.slowed_N,
              rear: data.statics.rear_force_N / data.slowed_N,
              decel_g: data.statics.decel_g,
            }}
            dry={data.lock}
            wet={data.wet}
            grip={value("vehicle.tyre_grip")}
          />
        </div>
      )}
    </section>
  );
}

type Opener = (topic: string, text: string) => ReactNode;
type ChainProps = { data: Schemas["BalanceOut"]; rider: boolean; why: Opener };

function Chain({ data, rider, why }: ChainProps) {
  const units = useUnits();
  const { chain, statics } = data;
  const force = (newtons: number) => units.withUnit(newtons, "force");
  const both = (nm: number) => `${withUnit(nm, "torque", "metric")} · ${withUnit(nm, "torque", "imperial")}`;
  const booster = chain.booster_adds_N > 1;
  return (
    <ChainDrawing
      links={[
        { name: rider ? "Lever" : "Pedal", value: force(chain.pedal_N) },
        { name: "Pushrod", value: why("pushrod", force(chain.pushrod_N)) },
        ...(booster
          ? [
              {
                name: "Booster adds",
                value: force(chain.booster_adds_N),
                ...(chain.booster_ran_out ? { note: "run out" } : {}),
              },
            ]
          : []),
        { name: "Master cylinder", value: why("master", force(chain.master_N)) },
      ]}
      ends={[
        {
          name: "Front: line, one pad, one rotor",
          values: [
            why("pressure_front", units.withUnit(chain.front_pressure_Pa, "pressure")),
            why("clamp_front", force(chain.front_clamp_N)),
            why("torque_front", both(statics.front_torque_Nm)),
          ],
        },
        {
          name: "Rear: line, one pad, one rotor",
          values: [
            why("pressure_rear", units.withUnit(chain.rear_pressure_Pa, "pressure")),
            why("clamp_rear", force(chain.rear_clamp_N)),
            why("torque_rear", both(statics.rear_torque_Nm)),
          ],
        },
      ]}
    />
  );
}

/** What the diagram shows, in words, gravest first. */
function Words({ data, kind }: { data: Schemas["BalanceOut"]; kind: string }) {
  const { say } = useUnits();
  const { lock } = data;
  return (
    <ul className="space-y-0.5 py-2" aria-label="Balance in words">
      {lock.first_axle === "front" && (
        <li>
          <StateWord state="fine">
            {`front locks first, at ${lock.decel_g.toFixed(2)} g dry and ${data.wet.decel_g.toFixed(2)} g wet; the tyres allow ${lock.best_possible_g.toFixed(2)} g`}
          </StateWord>
        </li>
      )}
      {data.warnings.map((warning) => (
        <li key={warning.code}>
          <StateWord state={warningState(kind, warning.code)}>{say(warning.text)}</StateWord>
        </li>
      ))}
    </ul>
  );
}

/** A rotor under its discard is a danger; so is a rear axle that locks first, but where a rider's hands decide. */
export function warningState(kind: string, code: string): State {
  if (code.startsWith("under_discard")) return "over";
  return code.startsWith("rear_first") && kind !== "motorcycle" ? "over" : "close";
}

function Line({ from, value }: { from: string; value: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between gap-3 py-1">
      <dt className="condensed text-muted">{from}</dt>
      <dd className="figures font-semibold">{value}</dd>
    </div>
  );
}
