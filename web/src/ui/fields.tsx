import { type ChangeEvent, type ReactNode, type RefObject, useEffect, useId, useRef, useState } from "react";
import { moveOn } from "../lib/order";
import { refusalText } from "../lib/refusals";
import { useGate } from "./gate";

const frame = "h-8 rounded-xs border border-ink bg-paper px-2";

type BoxAttributes = {
  id: string;
  "aria-invalid": true | undefined;
  "aria-describedby": string | undefined;
};
type LabelledProps = {
  label: string;
  refused?: string | undefined;
  className?: string;
  children: (attributes: BoxAttributes) => ReactNode;
};

/** A label over a box, and under it why what stands there was refused. */
export function Labelled({ label, refused, className, children }: LabelledProps) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="condensed block text-xs text-muted">
        {label}
      </label>
      {children({
        id,
        "aria-invalid": refused ? true : undefined,
        "aria-describedby": refused ? `${id}-help` : undefined,
      })}
      {refused && (
        <p id={`${id}-help`} className="condensed text-xs text-over">
          ▲ {refused}
        </p>
      )}
    </div>
  );
}

type TextProps = {
  label: string;
  value: string;
  required?: boolean;
  refused?: string | undefined;
  /** What it is called in the data: a refusal of the form finds the box by it. */
  path?: string;
  suggestions?: string[];
  wide?: boolean;
  /** More than one line. */
  lines?: number;
  onChange?: (value: string) => void;
  /** On leaving the box or Enter, when it has changed. */
  onCommit?: (value: string) => void;
};

/** A line of text. */
export function TextField(props: TextProps) {
  const { label, value, suggestions, wide, lines, onChange, onCommit, required } = props;
  const [text, setText] = useState(value);
  const box = useRef<HTMLInputElement | HTMLTextAreaElement>(null);
  // Words are never held back: only the server refuses them.
  const gate = useGate({ id: useId(), path: props.path, element: () => box.current });
  const refused = props.refused ?? (gate.refusal && refusalText(gate.refusal, "metric", { label }));
  useEffect(() => setText(value), [value]);
  const commit = () => text !== value && onCommit?.(text);
  const common = {
    value: text,
    required,
    onChange: (event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      setText(event.target.value);
      gate.retyped();
      onChange?.(event.target.value);
    },
    onBlur: commit,
  };
  return (
    <Labelled label={label} refused={refused} className={`min-w-0 ${wide ? "col-span-2" : ""}`}>
      {(attributes) => (
        <>
          {lines ? (
            <textarea
              {...attributes}
              {...common}
              ref={box as RefObject<HTMLTextAreaElement>}
              className={`rounded-xs border border-ink bg-paper px-2 py-1 w-full ${refused ? "border-over" : ""}`}
              rows={lines}
            />
          ) : (
            <input
              {...attributes}
              {...common}
              ref={box as RefObject<HTMLInputElement>}
              className={`${frame} w-full ${refused ? "border-over" : ""}`}
              autoComplete="off"
              list={suggestions ? `${attributes.id}-list` : undefined}
              onKeyDown={(event) => {
                if (event.key !== "Enter") return;
                commit();
                if (!gate.inForm) moveOn(event.currentTarget);
              }}
            />
          )}
          {suggestions && (
            <datalist id={`${attributes.id}-list`}>
              {suggestions.map((entry) => (
                <option key={entry} value={entry} />
              ))}
            </datalist>
          )}
        </>
      )}
    </Labelled>
  );
}

type SelectProps = {
  label: string;
  value: string;
  options: readonly (readonly [value: string, label: string])[];
  bare?: boolean;
  onChange: (value: string) => void;
};

/** One of a few words. */
export function SelectField({ label, value, options, bare, onChange }: SelectProps) {
  return (
    <label className="min-w-0">
      <span className={bare ? "sr-only" : "condensed block text-xs text-muted"}>{label}</span>
      <select
        className={`${frame} w-full max-w-full`}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map(([name, text]) => (
          <option key={name} value={name}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

type CheckProps = { checked: boolean; onChange: (checked: boolean) => void; children: ReactNode };

export function CheckField({ checked, onChange, children }: CheckProps) {
  return (
    <label className="flex items-baseline gap-2">
      <input
        type="checkbox"
        className="accent-ink"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      <span>{children}</span>
    </label>
  );
}
