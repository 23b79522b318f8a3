import { useEffect, useState } from "react";
import { ProblemError, problemText, type Schemas } from "../../api/client";
import { useBalance, useCalibrations, useChangeMachine, useMachine } from "../../api/queries";
import { BalanceDiagram } from "../../charts/BalanceDiagram";
import { SideView } from "../../charts/SideView";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { withUnit } from "../../lib/units";
import { Caution, Failure, GroupTitle, StageTitle, type State, StateWord, Working } from "../../ui/basics";
import { NumberField } from "../../ui/NumberField";
import { RuleSlider } from "../../ui/RuleSlider";
import { type Field, groups } from "./fields";
import { methodOf } from "./methods";
import { WorkOut } from "./WorkOut";

const GRAVITY = 9.80665;

type Drafts = Record<string, number | null>;

export function MachineStage() {
  const id = useMachineId();
  const machine = useMachine(id);
  const change = useChangeMachine(id);
  const used = useCalibrations(id).data?.find((row) => !row.removed);
  const fits: Record<string, string> = {};
  for (const axle of ["front", "rear"] as const)
    if (used?.[axle])
      fits[`${axle}.cooling_factor`] =
        `counts × ${used[axle].cooling.toFixed(2)}, by the temperatures measured`;
  const [drafts, setDrafts] = useState<Drafts>({});
  const [measuring, setMeasuring] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was typed for one machine must not try another
  useEffect(() => setDrafts({}), [id]);
  if (machine.error) return <Failure text={problemText(machine.error)} retry={() => machine.refetch()} />;
  if (!machine.data) return <Working>Fetching the machine…</Working>;
  const { values, estimates } = machine.data;
  const refused = change.error instanceof ProblemError ? change.error.problem : null;

  function commit(field: Field, value: number | null) {
    change.mutate(
      { [field.path]: value },
      { onSuccess: () => setDrafts(({ [field.path]: _, ...rest }) => rest) },
    );
  }
  const fieldNames = new Set(groups.flatMap((group) => group.fields.map((field) => field.path)));
  const elsewhere =
    refused && !refused.fields.some((entry) => fieldNames.has(entry.field)) ? refused.detail : null;

  return (
    <>
      <StageTitle
        title={machine.data.name}
        note={`${machine.data.owner} · ${machine.data.note} · ${estimates.length} numbers are estimates until you type what you measured`}
      />
      {elsewhere && (
        <Failure text={elsewhere} retry={() => change.variables && change.mutate(change.variables)} />
      )}
      <div className="grid gap-x-8 gap-y-6 bay:grid-cols-1! xl:grid-cols-[1fr_26rem]">
        <div className="order-2 space-y-6 xl:order-1">
          {groups.map((group) => {
            const present = group.fields.filter((field) => field.path in values);
            if (present.length === 0) return null;
            return (
              <fieldset key={group.title} className="border-t border-ink pt-2">
                <legend className="sr-only">{group.title}</legend>
                <GroupTitle>
                  {group.title}
                  {group.title === "Front axle" && (
                    <span className="condensed font-normal text-muted"> · {machine.data.front_caliper}</span>
                  )}
                  {group.title === "Rear axle" && (
                    <span className="condensed font-normal text-muted"> · {machine.data.rear_caliper}</span>
                  )}
                </GroupTitle>
                <div className="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-3 2xl:grid-cols-4">
                  {present.map((field) => (
                    <OneField
                      key={field.path}
                      field={field}
                      measured={fits[field.path]}
                      value={values[field.path] ?? null}
                      estimate={estimates.includes(field.path)}
                      refused={refused?.fields.find((entry) => entry.field === field.path)?.allowed}
                      onPreview={(value) => setDrafts((before) => ({ ...before, [field.path]: value }))}
                      onCommit={(value) => commit(field, value)}
                      onMeasure={methodOf(field.path) ? () => setMeasuring(field.path) : undefined}
                    />
                  ))}
                </div>
              </fieldset>
            );
          })}
        </div>
        <Live machine={machine.data} drafts={drafts} />
      </div>
      <WorkOut
        path={measuring}
        values={values}
        onUse={(changes) => change.mutate(changes)}
        onClose={() => setMeasuring(null)}
      />
      <Caution>
        Numbers here are estimates that support a decision; they certify nothing. Where the vehicle's manual
        says otherwise, it is right.
      </Caution>
    </>
  );
}

type OneFieldProps = {
  field: Field;
  /** What readings say about this number, where they do. */
  measured: string | undefined;
  value: number | null;
  estimate: boolean;
  refused: string | undefined;
  onPreview: (value: number | null) => void;
  onCommit: (value: number | null) => void;
  onMeasure: (() => void) | undefined;
};

function OneField({ field, measured, refused, ...rest }: OneFieldProps) {
  const { system } = useUnits();
  return (
    <NumberField
      label={field.label}
      quantity={field.quantity}
      hint={measured ?? field.how}
      system={system}
      nullable={field.nullable}
      refused={refused && `Not saved: ${refused}`}
      {...rest}
    />
  );
}

/** What the pedal gives, computed while the numbers are being typed. */
function Live({ machine, drafts }: { machine: Schemas["MachineOut"]; drafts: Drafts }) {
  const units = useUnits();
  const most = machine.values["hydraulics.max_pedal_force_N"] ?? 500;
  const [pedal, setPedal] = useState(Math.round(most * 0.4));
  const [asked, setAsked] = useState({ pedal_force_N: pedal, rotor_C: 200, changes: drafts });
  // A short pause, so that a number half typed is not asked about.
  useEffect(() => {
    const timer = setTimeout(() => setAsked({ pedal_force_N: pedal, rotor_C: 200, changes: drafts }), 200);
    return () => clearTimeout(timer);
  }, [pedal, drafts]);
  const balance = useBalance(machine.id, asked);
  // Every path asked for below holds a number on every machine.
  const value = (path: string) => drafts[path] ?? machine.values[path] ?? 0;
  const weight_N = value("vehicle.mass_kg") * GRAVITY;
  const both = (nm: number) => `${withUnit(nm, "torque", "metric")} · ${withUnit(nm, "torque", "imperial")}`;
  const data = balance.data;
  return (
    <section aria-label="What the pedal gives" className="order-1 xl:order-2">
      <RuleSlider
        label={machine.kind === "motorcycle" ? "Force on lever and pedal, each" : "Pedal force"}
        value={pedal}
        min={0}
        max={most}
        step={10}
        shown={units.withUnit(pedal, "force")}
        onChange={setPedal}
        onCommit={setPedal}
      />
      {balance.error && <StateWord state="over">{problemText(balance.error)}</StateWord>}
      {data && (
        <div className="grid gap-x-8 lg:max-xl:grid-cols-2">
          <div>
            <dl className="divide-y divide-hairline border-y border-hairline" aria-live="polite">
              <ChainLink
                from="Line pressure, front"
                value={units.withUnit(data.statics.pressure_Pa, "pressure")}
              />
              <ChainLink from="Torque, one front rotor" value={both(data.statics.front_torque_Nm)} />
              <ChainLink from="Torque, one rear rotor" value={both(data.statics.rear_torque_Nm)} />
              <ChainLink from="Deceleration it asks for" value={`${data.statics.decel_g.toFixed(2)} g`} />
              <ChainLink
                from="Adhesion used, front · rear"
                value={`${data.statics.front_adhesion.toFixed(2)} · ${data.rear_load_N > 0 ? data.statics.rear_adhesion.toFixed(2) : "lifted"}`}
              />
            </dl>
            <p className="py-2">
              {data.lock.first_axle === "none" ? (
                <StateWord state="close">{`no axle locks: full pedal gives ${data.lock.decel_g.toFixed(2)} g`}</StateWord>
              ) : (
                <StateWord state={lockState(machine.kind, data.lock.first_axle)}>
                  {`${data.lock.first_axle} locks first, at ${data.lock.decel_g.toFixed(2)} g; the tyres allow ${data.lock.best_possible_g.toFixed(2)} g`}
                </StateWord>
              )}
            </p>
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
              loadText={(newtons) => units.withUnit(newtons, "force")}
            />
          </div>
          <BalanceDiagram
            curve={data.curve}
            now={{
              front: data.statics.front_force_N / weight_N,
              rear: data.statics.rear_force_N / weight_N,
              decel_g: data.statics.decel_g,
            }}
            lock={data.lock}
            grip={value("vehicle.tyre_grip")}
          />
        </div>
      )}
    </section>
  );
}

/** A rear axle that locks first is a danger; on a motorcycle the rider's hands decide, so it is a warning. */
export function lockState(kind: string, first: string): State {
  if (first !== "rear") return "fine";
  return kind === "motorcycle" ? "close" : "over";
}

function ChainLink({ from, value }: { from: string; value: string }) {
  return (
    <div className="flex items-baseline justify-between gap-3 py-1">
      <dt className="condensed text-muted">{from}</dt>
      <dd className="figures font-semibold">{value}</dd>
    </div>
  );
}
