import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { todayIso } from "../../lib/text";
import { Button } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { Form } from "../../ui/Form";
import { CheckField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useDateFitting } from "./queries";

type Place = Schemas["FittedAsk"]["places"][number];
const places: readonly (readonly [Place, string])[] = [
  ["front_pads", "front pads"],
  ["rear_pads", "rear pads"],
  ["front_rotors", "front rotors"],
  ["rear_rotors", "rear rotors"],
];

/** Parts that went on last year: wear and age count from the day and the odometer they really began at. */
export function WhenFitted({ machineId }: { machineId: number }) {
  const { system } = useUnits();
  const date = useDateFitting(machineId);
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<Place[]>(["front_pads", "rear_pads"]);
  const [on, setOn] = useState(() => todayIso());
  const [km, setKm] = useState<number | null>(null);
  return (
    <details className="mt-6 max-w-2xl" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold">Something on it went on earlier than it says</summary>
      <Form
        label="Say when it went on"
        className="mt-2"
        refused={useRefused(date.error)}
        onSend={() => {
          if (km === null || chosen.length === 0) return;
          date.mutate(
            { places: chosen, on, odometer_km: km },
            {
              onSuccess: () => {
                setKm(null);
                setOpen(false);
              },
            },
          );
        }}
      >
        <div className="flex flex-wrap gap-x-5 gap-y-1">
          {places.map(([name, label]) => (
            <CheckField
              key={name}
              checked={chosen.includes(name)}
              onChange={(ticked) =>
                setChosen((before) => (ticked ? [...before, name] : before.filter((one) => one !== name)))
              }
            >
              {label}
            </CheckField>
          ))}
        </div>
        <div className="mt-2 flex flex-wrap items-start gap-4">
          <DateField label="Put on" path="on" value={on} required onChange={setOn} />
          <NumberField
            label="Odometer then"
            path="odometer_km"
            quantity="distance"
            system={system}
            value={km}
            nullable
            placeholder="read it off"
            onChange={setKm}
          />
          <Button
            type="submit"
            className="mt-4"
            disabled={km === null || chosen.length === 0 || date.isPending}
          >
            They went on then
          </Button>
        </div>
      </Form>
    </details>
  );
}
