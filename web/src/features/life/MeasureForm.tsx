import { useState } from "react";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { todayIso } from "../../lib/text";
import { Button, GroupTitle } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { Form } from "../../ui/Form";
import { NumberField } from "../../ui/NumberField";
import { useMeasure } from "./queries";

type Props = { machineId: number; odometer_km: number };

/** One measured thickness: the thinnest friction material on an axle. */
export function MeasureForm({ machineId, odometer_km }: Props) {
  const { system } = useUnits();
  const measure = useMeasure(machineId);
  const [axle, setAxle] = useState<"front" | "rear">("front");
  const [thickness, setThickness] = useState<number | null>(null);
  const [odometer, setOdometer] = useState<number | null>(odometer_km);
  const [on, setOn] = useState(() => todayIso());
  // A kept measurement empties the form; a refused one leaves every field as typed.
  const [round, setRound] = useState(0);
  return (
    <Form
      refused={useRefused(measure.error)}
      onSend={() => {
        if (thickness === null || odometer === null) return;
        measure.mutate(
          { axle, thickness_m: thickness, odometer_km: odometer, measured_on: on },
          {
            onSuccess: () => {
              setThickness(null);
              setRound(round + 1);
            },
          },
        );
      }}
    >
      <GroupTitle>Measure</GroupTitle>
      <fieldset className="mb-2 flex gap-4">
        <legend className="sr-only">Axle</legend>
        {(["front", "rear"] as const).map((name) => (
          <label key={name} className="flex items-center gap-1.5">
            <input
              type="radio"
              name="axle"
              className="accent-ink"
              checked={axle === name}
              onChange={() => setAxle(name)}
            />
            {name}
          </label>
        ))}
      </fieldset>
      <div key={round} className="grid grid-cols-2 gap-3">
        <NumberField
          label="Thinnest friction material"
          quantity="thickness"
          value={null}
          system={system}
          hint="backing plate not counted"
          path="thickness_m"
          nullable
          onChange={setThickness}
        />
        <NumberField
          label="Odometer"
          quantity="distance"
          value={odometer_km}
          system={system}
          path="odometer_km"
          onChange={setOdometer}
        />
      </div>
      <div className="mt-2">
        <DateField path="measured_on" label="Measured on" value={on} required onChange={setOn} />
      </div>
      <Button
        primary
        type="submit"
        className="mt-3"
        disabled={thickness === null || odometer === null || measure.isPending}
      >
        Keep the measurement
      </Button>
    </Form>
  );
}
