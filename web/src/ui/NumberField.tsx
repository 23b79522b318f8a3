import { useEffect, useId, useState } from "react";
import { figure, parse, type Quantity, type System, unitOf } from "../lib/units";

type Props = {
  label: string;
  quantity: Quantity;
  value: number | null;
  system: System;
  estimate?: boolean;
  hint?: string;
  /** What the server said about this field, if it refused it. */
  refused?: string;
  nullable?: boolean;
  /** Opens the way to measure this number. */
  onMeasure?: () => void;
  onPreview?: (value: number | null) => void;
  onCommit: (value: number | null) => void;
};

function shown(value: number | null, quantity: Quantity, system: System): string {
  if (value === null) return "";
  const text = figure(value, quantity, system, unitOf(quantity, system).digits + 2);
  return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
}

/** A number with its unit: takes any common unit, keeps what was typed when it is wrong, and says what is allowed. */
export function NumberField(props: Props) {
  const { label, quantity, value, system, estimate, hint, refused, nullable, onPreview, onCommit } = props;
  const { onMeasure } = props;
  const id = useId();
  const [text, setText] = useState(() => shown(value, quantity, system));
  const [message, setMessage] = useState<string | null>(null);

  // A value from elsewhere (saved, undone, other units) replaces the text; a refused text stays as typed.
  useEffect(() => {
    setText(shown(value, quantity, system));
    setMessage(null);
  }, [value, quantity, system]);

  function read(typed: string): number | null | undefined {
    if (typed.trim() === "" && nullable) return null;
    const parsed = parse(typed, quantity, system);
    if (parsed.ok) {
      setMessage(null);
      return parsed.value;
    }
    setMessage(parsed.message);
    return undefined;
  }

  function commit() {
    const next = read(text);
    if (next === undefined || text === shown(value, quantity, system)) return;
    onCommit(next);
  }

  const problem = message ?? refused;
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="condensed block text-xs text-muted">
        {label}
        {estimate && <span className="ml-1 border border-hairline px-1 text-ink">estimate</span>}
      </label>
      <div className="flex items-baseline gap-1.5">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          value={text}
          placeholder={nullable ? "none" : undefined}
          aria-invalid={problem ? true : undefined}
          aria-describedby={`${id}-help`}
          className={`figures h-8 w-24 rounded-xs border bg-paper px-2 text-right text-figure ${problem ? "border-over" : "border-ink"} ${estimate ? "border-dashed" : ""}`}
          onChange={(event) => {
            setText(event.target.value);
            const next = read(event.target.value);
            if (next !== undefined) onPreview?.(next);
          }}
          onBlur={commit}
          onKeyDown={(event) => event.key === "Enter" && commit()}
        />
        <span className="condensed text-muted">{unitOf(quantity, system).symbol}</span>
      </div>
      <p id={`${id}-help`} className={`condensed text-xs ${problem ? "text-over" : "text-muted"}`}>
        {problem ? `▲ ${problem}` : hint}
      </p>
      {onMeasure && (
        <button type="button" className="condensed text-xs underline underline-offset-2" onClick={onMeasure}>
          Measure it<span className="sr-only">: {label}</span>
        </button>
      )}
    </div>
  );
}
