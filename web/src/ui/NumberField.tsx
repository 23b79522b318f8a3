import { useEffect, useId, useState } from "react";
import { figure, parse, type Quantity, type System, unitOf } from "../lib/units";

type Props = {
  label: string;
  /** What it is called in the data: links find the box by it. */
  path?: string;
  quantity: Quantity;
  value: number | null;
  system: System;
  estimate?: boolean;
  hint?: string;
  /** What the server said about this field, if it refused it. */
  refused?: string;
  nullable?: boolean;
  /** What stands in the empty box. */
  placeholder?: string;
  /** In a table: the column has the label and the unit. */
  bare?: boolean;
  /** Opens the way to measure this number. */
  onMeasure?: () => void;
  /** Gives the number back to the estimate. */
  onLeaveOpen?: () => void;
  onPreview?: (value: number | null) => void;
  onCommit: (value: number | null) => void;
};

/** A value as it stands in its box; an estimate claims no more than two figures. */
export function shown(
  value: number | null,
  quantity: Quantity,
  system: System,
  estimate: boolean | undefined = false,
): string {
  if (value === null) return "";
  if (estimate) return Number(Number(figure(value, quantity, system, 9)).toPrecision(2)).toString();
  const text = figure(value, quantity, system, (unitOf(quantity, system).digits ?? 2) + 2);
  return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
}

/** A number with its unit: takes any common unit, keeps what was typed when it is wrong, and says what is allowed. */
export function NumberField(props: Props) {
  const { label, quantity, value, system, estimate, hint, refused, nullable, bare } = props;
  const { onMeasure, onLeaveOpen, onPreview, onCommit } = props;
  const id = useId();
  const [text, setText] = useState(() => shown(value, quantity, system, estimate));
  const [message, setMessage] = useState<string | null>(null);

  // A value from elsewhere (saved, undone, other units) replaces the text; a refused text stays as typed.
  useEffect(() => {
    setText(shown(value, quantity, system, estimate));
    setMessage(null);
  }, [value, quantity, system, estimate]);

  function read(typed: string): number | null | undefined {
    if (typed.trim() === "" && nullable) {
      setMessage(null);
      return null;
    }
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
    if (next === undefined || text === shown(value, quantity, system, estimate)) return;
    onCommit(next);
  }

  const problem = message ?? refused;
  const symbol = unitOf(quantity, system).symbol;
  return (
    <div className="group min-w-0">
      <label htmlFor={id} className={bare ? "sr-only" : "condensed block text-xs text-muted"}>
        {label}
        {estimate && <span className="ml-1 border border-hairline px-1 text-ink">estimate</span>}
      </label>
      <div className="flex items-baseline gap-1.5">
        <input
          id={id}
          data-path={props.path}
          inputMode="decimal"
          autoComplete="off"
          value={text}
          placeholder={props.placeholder ?? (nullable ? "none" : undefined)}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem || hint ? `${id}-help` : undefined}
          className={`figures h-8 rounded-xs border bg-paper px-2 text-right text-figure ${bare ? "w-full min-w-14" : "w-24"} ${problem ? "border-over" : "border-ink"} ${estimate ? "border-dashed" : ""}`}
          onChange={(event) => {
            setText(event.target.value);
            const next = read(event.target.value);
            if (next !== undefined) onPreview?.(next);
          }}
          onBlur={commit}
          onKeyDown={(event) => event.key === "Enter" && commit()}
        />
        {!bare && <span className="condensed text-muted">{symbol}</span>}
      </div>
      {(problem || hint) && (
        <p id={`${id}-help`} className={`condensed text-xs ${problem ? "text-over" : "text-muted"}`}>
          {problem ? `▲ ${problem}` : hint}
        </p>
      )}
      {(onMeasure || onLeaveOpen) && (
        <p className="condensed flex gap-3 text-xs">
          {onMeasure && (
            <button type="button" className="underline underline-offset-2" onClick={onMeasure}>
              Measure it<span className="sr-only">: {label}</span>
            </button>
          )}
          {onLeaveOpen && (
            <button
              type="button"
              className="hidden underline underline-offset-2 group-focus-within:inline"
              onClick={onLeaveOpen}
            >
              Leave open<span className="sr-only">: {label}</span>
            </button>
          )}
        </p>
      )}
    </div>
  );
}
