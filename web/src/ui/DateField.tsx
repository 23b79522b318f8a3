import { useEffect, useId, useState } from "react";

type Props = {
  label: string;
  /** A day as the API has it, 2026-03-14; the field shows it as the reader's own system writes days. */
  value: string;
  required?: boolean;
  refused?: string | undefined;
  onChange?: (value: string) => void;
  /** On leaving the field, when it has changed and is a day. */
  onCommit?: (value: string) => void;
};

/** A day. */
export function DateField({ label, value, required, refused, onChange, onCommit }: Props) {
  const id = useId();
  const [day, setDay] = useState(value);
  useEffect(() => setDay(value), [value]);
  return (
    <div>
      <label htmlFor={id} className="condensed block text-xs text-muted">
        {label}
      </label>
      <input
        id={id}
        type="date"
        className={`figures h-8 rounded-xs border bg-paper px-2 max-md:h-11 ${refused ? "border-over" : "border-ink"}`}
        value={day}
        required={required}
        aria-invalid={refused ? true : undefined}
        aria-describedby={refused ? `${id}-help` : undefined}
        onChange={(event) => {
          setDay(event.target.value);
          onChange?.(event.target.value);
        }}
        onBlur={() => day && day !== value && onCommit?.(day)}
      />
      {refused && (
        <p id={`${id}-help`} className="condensed text-xs text-over">
          ▲ {refused}
        </p>
      )}
    </div>
  );
}
