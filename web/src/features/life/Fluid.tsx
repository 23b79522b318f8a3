import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { dateText, todayIso } from "../../lib/text";
import { Button, Failure } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { Form } from "../../ui/Form";
import { CheckField, SelectField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { TakeOut } from "../../ui/TakeOut";
import { useReadFluid, useRemoveFluidReading } from "./season";

type Reading = Schemas["FluidReadingOut"];
type Colour = Schemas["FluidReadingAsk"]["colour"];
const colours = [
  ["", "not looked at"],
  ["clear", "clear"],
  ["amber", "amber"],
  ["brown", "brown"],
  ["black", "black"],
] as const;

/** What a tester, an eye or a soft pedal says of the fluid that is in. */
export function Fluid({ machineId, rows }: { machineId: number; rows: Reading[] }) {
  const units = useUnits();
  const remove = useRemoveFluidReading(machineId);
  return (
    <details className="mt-4">
      <summary className="cursor-pointer font-semibold">
        Fluid tested {rows.length > 0 && `(${rows.length})`}
      </summary>
      <FluidForm machineId={machineId} />
      <ul className="max-w-2xl">
        {rows.map((row) => (
          <li
            key={row.id}
            className={`flex flex-wrap items-baseline justify-between gap-2 border-t border-hairline py-1.5 ${row.removed ? "text-muted line-through" : ""}`}
          >
            <span>
              {[
                row.boiling_C !== null && `boiled at ${units.withUnit(row.boiling_C, "temperature")}`,
                row.water_share !== null && `${(100 * row.water_share).toFixed(1)} % water`,
                row.colour,
                row.overheated && "overheated",
              ]
                .filter(Boolean)
                .join(", ")}
              <span className="condensed text-muted"> {dateText(row.measured_on)}</span>
            </span>
            <TakeOut
              removed={row.removed}
              onClick={() => remove.mutate({ row: row.id, removed: !row.removed })}
            />
          </li>
        ))}
      </ul>
      {remove.error && <Failure text={problemText(remove.error)} />}
    </details>
  );
}

function FluidForm({ machineId }: { machineId: number }) {
  const { system } = useUnits();
  const read = useReadFluid(machineId);
  const [boiling, setBoiling] = useState<number | null>(null);
  const [water, setWater] = useState<number | null>(null);
  const [colour, setColour] = useState<Colour>("");
  const [hot, setHot] = useState(false);
  const [on, setOn] = useState(() => todayIso());
  const [round, setRound] = useState(0);
  const said = boiling !== null || water !== null || colour !== "" || hot;
  return (
    <Form
      label="A reading of the fluid"
      className="my-2 flex flex-wrap items-end gap-3"
      refused={useRefused(read.error)}
      onSend={() =>
        read.mutate(
          { measured_on: on, boiling_C: boiling, water_share: water, colour, overheated: hot },
          {
            onSuccess: () => {
              setBoiling(null);
              setWater(null);
              setColour("");
              setHot(false);
              setRound(round + 1);
            },
          },
        )
      }
    >
      <div key={round} className="flex flex-wrap items-end gap-3">
        <div className="w-36">
          <NumberField
            label="Tester: it boiled at"
            path="boiling_C"
            quantity="temperature"
            nullable
            value={null}
            system={system}
            onChange={setBoiling}
          />
        </div>
        <div className="w-36">
          <NumberField
            label="or water in it"
            path="water_percent"
            quantity="grade"
            nullable
            value={null}
            system={system}
            onChange={setWater}
          />
        </div>
      </div>
      <SelectField
        label="Colour"
        value={colour ?? ""}
        options={colours}
        onChange={(name) => setColour(colours.find(([word]) => word === name)?.[0] ?? "")}
      />
      <DateField label="Read on" path="measured_on" value={on} required onChange={setOn} />
      <CheckField checked={hot} onChange={setHot}>
        it boiled, or the pedal went soft hot
      </CheckField>
      <Button type="submit" disabled={!said || read.isPending}>
        Keep it
      </Button>
    </Form>
  );
}
