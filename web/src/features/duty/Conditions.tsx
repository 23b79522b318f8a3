import type { Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { CheckField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import type { Body } from "./drafts";

type Props = {
  body: Body;
  set: (change: Partial<Body>) => void;
  change: (part: Partial<Body["conditions"]>) => void;
  machine: Schemas["MachineOut"] | undefined;
};

/** What differs from the machine's own numbers on this duty, and the time after it. */
export function Conditions({ body, set, change, machine }: Props) {
  const { system, figure } = useUnits();
  const conditions = body.conditions;
  const values = machine?.values ?? {};
  // A recorded run ends as it was recorded, and the parts of a day say how long it stands after each.
  const soak = body.shape.kind !== "recorded" && body.shape.kind !== "day";
  return (
    <fieldset className="mt-4 border-t border-ink pt-2">
      <legend className="sr-only">On this duty</legend>
      <h3 className="mb-2 font-semibold">On this duty only</h3>
      <div className="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-4">
        <NumberField
          label="Air on the day"
          quantity="temperature"
          system={system}
          value={conditions.air_C ?? null}
          nullable
          placeholder={figure(values["environment.air_C"] ?? 20, "temperature")}
          hint="empty: the machine's own"
          path="conditions.air_C"
          onCommit={(air_C) => change({ air_C })}
        />
        <NumberField
          label="Altitude there"
          quantity="altitude"
          system={system}
          value={conditions.altitude_m ?? null}
          nullable
          placeholder={figure(values["environment.altitude_m"] ?? 0, "altitude")}
          hint="empty: the machine's own"
          path="conditions.altitude_m"
          onCommit={(altitude_m) => change({ altitude_m })}
        />
        <NumberField
          label="Ducts, times the cooling"
          quantity="ratio"
          system={system}
          value={conditions.duct_factor}
          hint="1 as it stands; 1.3 to 1.6 with ducts on"
          path="conditions.duct_factor"
          onCommit={(value) => value !== null && change({ duct_factor: value })}
        />
        {soak && (
          <NumberField
            label="Parked afterwards"
            quantity="minutes"
            system={system}
            value={body.then_s}
            hint="the hot soak: when fluid boils"
            path="then_s"
            onCommit={(value) => value !== null && set({ then_s: value })}
          />
        )}
      </div>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-1">
        {(machine?.towing || conditions.without_trailer) && (
          <CheckField checked={conditions.without_trailer} onChange={(on) => change({ without_trailer: on })}>
            Trailer left behind
          </CheckField>
        )}
        {(machine?.regen_axle || conditions.battery_full) && (
          <CheckField checked={conditions.battery_full} onChange={(on) => change({ battery_full: on })}>
            Battery full: the motor does not brake
          </CheckField>
        )}
      </div>
    </fieldset>
  );
}
