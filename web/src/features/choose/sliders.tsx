import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { noWhatIf, useWhatIf } from "../../api/queries";
import { useUnits } from "../../lib/settings";
import { GroupTitle } from "../../ui/basics";
import { RuleSlider } from "../../ui/RuleSlider";

type Weights = Schemas["WeightsIO"];

const labels: [keyof Weights, string][] = [
  ["heat_margin", "Heat margin"],
  ["cold_bite", "Cold bite"],
  ["pad_life", "Pad life"],
  ["quiet", "Quiet"],
  ["clean_wheels", "Clean wheels"],
  ["cost", "Cost"],
];

/** What matters, 0 to 5; moving one ranks again without simulating again. */
export function WeightSliders({
  weights,
  onCommit,
}: {
  weights: Weights;
  onCommit: (next: Weights) => void;
}) {
  const [shown, setShown] = useState(weights);
  useEffect(() => setShown(weights), [weights]);
  return (
    <section aria-label="What matters to you">
      <GroupTitle>What matters to you</GroupTitle>
      {labels.map(([name, label]) => (
        <RuleSlider
          key={name}
          label={label}
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

/** What is tried, not kept: cooling and air. The answer follows the hand. */
export function WhatIfSliders({ machineId, airNow }: { machineId: number; airNow: number }) {
  const units = useUnits();
  const [whatIf, setWhatIf] = useWhatIf(machineId);
  const air = whatIf.air_C ?? airNow;
  const changed = whatIf.cooling_factor !== 1 || whatIf.air_C !== null;
  return (
    <section aria-label="What if" className="mt-5">
      <div className="flex items-baseline justify-between">
        <GroupTitle>What if</GroupTitle>
        {changed && (
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
        onChange={(cooling_factor) => setWhatIf({ ...whatIf, cooling_factor })}
      />
      <RuleSlider
        label="Air"
        value={air}
        min={-10}
        max={45}
        step={1}
        shown={units.withUnit(air, "temperature")}
        onChange={(air_C) => setWhatIf({ ...whatIf, air_C })}
      />
    </section>
  );
}
