import { useState } from "react";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { todayIso } from "../../lib/text";
import { Button } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { Form } from "../../ui/Form";
import { TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useWriteNote } from "./queries";

type Props = { machineId: number | null; currency: string; onDone: () => void };

/** An entry by hand: what was done, when, at which odometer, and what it cost. */
export function NoteForm({ machineId, currency, onDone }: Props) {
  const { system } = useUnits();
  const write = useWriteNote();
  const [text, setText] = useState("");
  const [on, setOn] = useState(() => todayIso());
  const [km, setKm] = useState<number | null>(null);
  const [cost, setCost] = useState<number | null>(null);
  return (
    <Form
      label="Write an entry"
      begin
      className="mb-4 grid max-w-3xl grid-cols-2 items-end gap-3 border border-hairline p-3 md:grid-cols-4"
      refused={useRefused(write.error)}
      onSend={() =>
        write.mutate({ machine_id: machineId, on, text, odometer_km: km, cost }, { onSuccess: onDone })
      }
    >
      <div className="col-span-full">
        <TextField
          label="What was done or seen"
          path="text"
          lines={3}
          value={text}
          required
          onChange={setText}
        />
      </div>
      <DateField label="Day" path="on" value={on} required onChange={setOn} />
      {machineId !== null && (
        <NumberField
          label="Odometer, if read"
          path="odometer_km"
          quantity="distance"
          nullable
          value={null}
          system={system}
          onChange={setKm}
        />
      )}
      <NumberField
        label={`Cost, ${currency}`}
        path="cost"
        quantity="finePrice"
        nullable
        value={null}
        system={system}
        onChange={setCost}
      />
      <div className="col-span-full flex gap-2">
        <Button type="submit" primary disabled={write.isPending || !text.trim()}>
          Keep it
        </Button>
        <Button onClick={onDone}>Leave it</Button>
      </div>
    </Form>
  );
}
