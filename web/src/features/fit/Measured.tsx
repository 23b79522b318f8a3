import { problemText } from "../../api/client";
import { useHand } from "../../lib/hand";
import { useUnits } from "../../lib/settings";
import type { Quantity } from "../../lib/units";
import { Failure } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useChangeMachine, useChangeWords, useMachine } from "../machine/queries";
import { type AxleFit, type Fit, useMeasurePart } from "./queries";

type Props = { machineId: number; fit: Fit; axle: AxleFit };

const ofCaliper = [
  ["opening_m", "Caliper opening", "pistons home, no pads: piston face to abutment"],
  ["piston_depth_m", "Piston in its bore, home", "its length, less what stands out"],
] as const;

/** What was measured of caliper and parts: typed here, it goes before what numbers and estimates say. */
export function Measured({ machineId, fit, axle }: Props) {
  const { system, figure } = useUnits();
  const machine = useMachine(machineId).data;
  const change = useChangeMachine(machineId);
  const measure = useMeasurePart(machineId);
  const values = machine?.values ?? {};
  const part = (kind: "rotor" | "pad", label: string, kept: number | null, stated: number, hint: string) => (
    <NumberField
      label={label}
      path={`${axle.axle}.${kind}.measured`}
      quantity="bore"
      system={system}
      value={kept}
      nullable
      placeholder={figure(stated, "thickness")}
      hint={hint}
      onCommit={(value) =>
        measure.mutate({ key: fit.key, axle: axle.axle, part: kind, name: "thickness_m", value, seen: kept })
      }
    />
  );
  return (
    <details className="mt-3" open={!axle.is_on && axle.stack.verdict !== "fits"} data-measured>
      <summary className="cursor-pointer font-semibold">Measured of caliper and parts</summary>
      <div className="mt-2 grid grid-cols-1 gap-4 sm:grid-cols-2 xl:grid-cols-4">
        {ofCaliper.map(([name, label, hint]) => (
          <PathField
            key={name}
            path={`${axle.axle}.${name}`}
            label={label}
            hint={hint}
            quantity="bore"
            values={values}
            change={change}
          />
        ))}
        {axle.new_rotors &&
          part(
            "rotor",
            "Ring at hand",
            axle.ring_measured_m,
            axle.ring_stated_m,
            "goes before its number, on every machine",
          )}
        {!axle.is_on &&
          part(
            "pad",
            "Friction of the pad at hand",
            axle.pad_measured_m,
            axle.pad_stated_m,
            "whole pad less its plate",
          )}
      </div>
      <div className="mt-3 flex flex-wrap gap-4">
        {spoken.map(([name, label, options]) => (
          <WordField
            key={name}
            machineId={machineId}
            path={`${axle.axle}.${name}`}
            label={label}
            options={options}
          />
        ))}
      </div>
      {change.error && <Failure text={problemText(change.error)} />}
      {measure.error && <Failure text={problemText(measure.error)} />}
    </details>
  );
}

const spoken = [
  [
    "wear_sensor",
    "Electric wear sensor",
    [
      ["", "not said"],
      ["none", "none"],
      ["left", "left"],
      ["right", "right"],
      ["both", "both sides"],
    ],
  ],
  [
    "line",
    "Line at the caliper",
    [
      ["", "not said: a hose"],
      ["hose", "hose"],
      ["pipe", "hard line"],
    ],
  ],
  [
    "retention",
    "Pads held by",
    [
      ["", "not said: as usual"],
      ["bracket", "the bracket"],
      ["pins", "pins"],
      ["bolted", "a bolted bridge"],
    ],
  ],
] as const;

type WordProps = {
  machineId: number;
  path: string;
  label: string;
  options: readonly (readonly [string, string])[];
};

/** One word of the machine's own, kept by its path. */
function WordField({ machineId, path, label, options }: WordProps) {
  const machine = useMachine(machineId).data;
  const change = useChangeWords(machineId);
  const [held, hold] = useHand<string>();
  const kept = machine?.words[path] ?? "";
  return (
    <div>
      <SelectField
        label={label}
        value={held ?? kept}
        options={options}
        onChange={(word) =>
          hold(word, change.mutateAsync({ words: { [path]: word }, seen: { [path]: kept } }))
        }
      />
      {change.error && <Failure text={problemText(change.error)} />}
    </div>
  );
}

type PathProps = {
  path: string;
  label: string;
  hint?: string;
  quantity: Quantity;
  bare?: boolean;
  values: Record<string, number | null>;
  change: ReturnType<typeof useChangeMachine>;
};

/** One measure of the machine's own, kept by its path. */
export function PathField({ path, label, hint, quantity, bare, values, change }: PathProps) {
  const { system } = useUnits();
  const value = values[path] ?? null;
  return (
    <NumberField
      label={label}
      path={path}
      quantity={quantity}
      system={system}
      value={value}
      nullable
      placeholder="?"
      {...(hint ? { hint } : {})}
      {...(bare ? { bare } : {})}
      onCommit={(next) => change.mutate({ changes: { [path]: next }, seen: { [path]: value } })}
    />
  );
}
