import { useEffect, useId, useRef, useState } from "react";
import { refusalText } from "../lib/refusals";
import { Labelled } from "./fields";
import { useGate } from "./gate";

type Props = {
  label: string;
  /** A day as the API has it, 2026-03-14; the field shows it as the reader's own system writes days. */
  value: string;
  required?: boolean;
  refused?: string | undefined;
  /** What it is called in the data: a refusal of the form finds the box by it. */
  path?: string;
  onChange?: (value: string) => void;
  /** On leaving the field, when it has changed and is a day. */
  onCommit?: (value: string) => void;
};

/** A day. */
export function DateField({ label, value, required, path, onChange, onCommit, ...props }: Props) {
  const [day, setDay] = useState(value);
  useEffect(() => setDay(value), [value]);
  const box = useRef<HTMLInputElement>(null);
  const gate = useGate({ id: useId(), path, element: () => box.current });
  const refused = props.refused ?? (gate.refusal && refusalText(gate.refusal, "metric", { label }));
  return (
    <Labelled label={label} refused={refused}>
      {(attributes) => (
        <input
          {...attributes}
          ref={box}
          type="date"
          className={`figures h-8 rounded-xs border bg-paper px-2 max-md:h-11 ${refused ? "border-over" : "border-ink"}`}
          value={day}
          required={required}
          onChange={(event) => {
            setDay(event.target.value);
            gate.retyped();
            onChange?.(event.target.value);
          }}
          onBlur={() => day && day !== value && onCommit?.(day)}
        />
      )}
    </Labelled>
  );
}
