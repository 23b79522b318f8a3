import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { gearText } from "../../lib/text";
import { GroupTitle } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { RuleSlider } from "../../ui/RuleSlider";
import { isTrying, noWhatIf, useWhatIf, type WhatIf } from "../whatif";
import { useLevers } from "./queries";

type Weights = Schemas["WeightsIO"];

const labels: [keyof Weights, string][] = [
  ["heat_margin", "Heat margin"],
  ["cold_bite", "Cold bite"],
  ["pedal", "Light pedal"],
  ["pad_life", "Pad life"],
  ["quiet", "Quiet"],
  ["clean_wheels", "Clean wheels"],
  ["rotor_wear", "Sparing rotors"],
  ["cost", "Cost"],
];

const kinds: Record<string, string> = {
  track: "a track driver",
  sprint: "sprints, cold pads",
  hill: "hill-climbs",
  tow: "towing over passes",
  street: "quiet streets, clean wheels",
  delivery: "a van at work",
};

/** The preset these weights are, or none. */
export function presetOf(weights: Weights, presets: Record<string, Weights>): string {
  const same = (other: Weights) => labels.every(([name]) => other[name] === weights[name]);
  return Object.entries(presets).find(([, preset]) => same(preset))?.[0] ?? "";
}

/** What matters, 0 to 5; moving one ranks again without simulating again. */
export function WeightSliders({
  weights,
  presets,
  onCommit,
}: {
  weights: Weights;
  presets: Record<string, Weights>;
  onCommit: (next: Weights) => void;
}) {
  const [shown, setShown] = useState(weights);
  const { word } = useUnits();
  useEffect(() => setShown(weights), [weights]);
  return (
    <section aria-label="What matters to you">
      <GroupTitle>What matters to you</GroupTitle>
      <div className="mb-3">
        <SelectField
          label="Start from what suits"
          value={presetOf(weights, presets)}
          options={[
            ["", "weights of your own"],
            ...Object.keys(presets).map((use) => [use, kinds[use] ?? use] as const),
          ]}
          onChange={(use) => {
            const preset = presets[use];
            if (preset) onCommit(preset);
          }}
        />
      </div>
      {labels.map(([name, label]) => (
        <RuleSlider
          key={name}
          label={word(label)}
          value={shown[name]}
          min={0}
          max={5}
          step={1}
          shown={shown[name].toFixed(0)}
          onChange={(value) => setShown({ ...shown, [name]: value })}
          onCommit={(value) => onCommit({ ...shown, [name]: value })}
        />
      ))}
    </section>
  );
}

/** What is tried, not kept: whatever the machine's duty has a lever for. The answer follows the hand. */
export function WhatIfSliders({ machineId }: { machineId: number }) {
  const units = useUnits();
  const levers = useLevers(machineId).data;
  const [whatIf, setWhatIf] = useWhatIf(machineId);
  if (!levers) return null;
  const tryIt = (changes: Partial<WhatIf>) => setWhatIf({ ...whatIf, ...changes });
  // What holds now is no change, so that going back to it leaves nothing tried.
  const unless = <T,>(value: T, now: T) => (value === now ? null : value);
  const step = levers.mass_kg < 400 ? 5 : 10;
  const extra = (share: number) => Math.round((share * levers.mass_kg) / step) * step;
  const air = whatIf.air_C ?? levers.air_C;
  const age = whatIf.fluid_age_months ?? levers.fluid_age_months;
  const level = whatIf.driver_level ?? levers.driver_level ?? "";
  const gear = whatIf.gear ?? "usual";
  const repeats = whatIf.repeats ?? levers.repeats ?? 1;
  return (
    <section aria-label="What if" className="mt-5">
      <div className="flex items-baseline justify-between">
        <GroupTitle>What if</GroupTitle>
        {isTrying(whatIf) && (
          <button
            type="button"
            className="condensed underline underline-offset-2"
            onClick={() => setWhatIf(noWhatIf)}
          >
            Back to the machine
          </button>
        )}
      </div>
      <RuleSlider
        label="Ducts, cooling"
        value={whatIf.cooling_factor}
        min={0.4}
        max={3}
        step={0.1}
        shown={`× ${whatIf.cooling_factor.toFixed(1)}`}
        onChange={(cooling_factor) => tryIt({ cooling_factor })}
      />
      <RuleSlider
        label="Air"
        value={air}
        min={-10}
        max={45}
        step={1}
        shown={units.withUnit(air, "temperature")}
        onChange={(value) => tryIt({ air_C: unless(value, levers.air_C) })}
      />
      <RuleSlider
        label="Mass as driven"
        value={whatIf.extra_mass_kg}
        min={extra(-0.2)}
        max={extra(0.5)}
        step={step}
        shown={units.withUnit(levers.mass_kg + whatIf.extra_mass_kg, "mass")}
        onChange={(extra_mass_kg) => tryIt({ extra_mass_kg })}
      />
      {levers.driver_levels.length > 0 && (
        <RuleSlider
          label="Driver"
          value={levers.driver_levels.indexOf(level)}
          min={0}
          max={levers.driver_levels.length - 1}
          step={1}
          shown={level}
          onChange={(place) =>
            tryIt({ driver_level: unless(levers.driver_levels[place] ?? null, levers.driver_level) })
          }
        />
      )}
      {levers.repeats !== null && (
        <RuleSlider
          label={`${levers.noun.replace(/^./, (first) => first.toUpperCase())}s`}
          value={repeats}
          min={1}
          max={Math.min(120, Math.max(10, 2 * levers.repeats))}
          step={1}
          shown={String(repeats)}
          onChange={(value) => tryIt({ repeats: unless(value, levers.repeats) })}
        />
      )}
      {levers.speed_mps !== null && (
        <RuleSlider
          label="Speed down the hill"
          value={whatIf.speed_factor}
          min={0.4}
          max={1.4}
          step={0.05}
          shown={units.withUnit(levers.speed_mps * whatIf.speed_factor, "speed")}
          onChange={(value) => tryIt({ speed_factor: Number(value.toFixed(2)) })}
        />
      )}
      {typeof levers.grade === "number" && (
        <RuleSlider
          label="Slope"
          value={whatIf.grade_factor}
          min={0.5}
          max={1.75}
          step={0.05}
          shown={units.withUnit(levers.grade * whatIf.grade_factor, "grade")}
          onChange={(value) => tryIt({ grade_factor: Number(value.toFixed(2)) })}
        />
      )}
      {typeof levers.length_m === "number" && (
        <RuleSlider
          label="Length of the hill"
          value={whatIf.length_factor}
          min={0.25}
          max={3}
          step={0.05}
          shown={units.withUnit((levers.length_m * whatIf.length_factor) / 1000, "distance", 1)}
          onChange={(value) => tryIt({ length_factor: Number(value.toFixed(2)) })}
        />
      )}
      {typeof levers.trailer_brake_share === "number" && (
        <>
          <RuleSlider
            label="Trailer brakes itself"
            value={whatIf.trailer_brake_share ?? levers.trailer_brake_share}
            min={0}
            max={1}
            step={0.05}
            shown={`${Math.round(100 * (whatIf.trailer_brake_share ?? levers.trailer_brake_share))} %`}
            onChange={(value) =>
              tryIt({
                trailer_brake_share: unless(Number(value.toFixed(2)), levers.trailer_brake_share ?? null),
              })
            }
          />
          <button
            type="button"
            className="mb-2 min-h-6 underline underline-offset-2"
            aria-pressed={whatIf.trailer_brake_share === 0}
            onClick={() => tryIt({ trailer_brake_share: whatIf.trailer_brake_share === 0 ? null : 0 })}
          >
            {whatIf.trailer_brake_share === 0 ? "They work again" : "They have failed"}
          </button>
        </>
      )}
      {levers.gears.length > 0 && (
        <RuleSlider
          label="Gear"
          value={levers.gears.indexOf(gear)}
          min={0}
          max={levers.gears.length - 1}
          step={1}
          shown={gearText(gear)}
          onChange={(place) => tryIt({ gear: place === 0 ? null : (levers.gears[place] ?? null) })}
        />
      )}
      <RuleSlider
        label="Age of the fluid"
        value={age}
        min={0}
        max={60}
        step={1}
        shown={units.withUnit(Math.round(age), "someMonths")}
        onChange={(value) => tryIt({ fluid_age_months: unless(value, levers.fluid_age_months) })}
      />
    </section>
  );
}
