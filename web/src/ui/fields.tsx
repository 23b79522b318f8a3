import { type ChangeEvent, type ReactNode, useEffect, useId, useState } from "react";

const box = "h-8 rounded-xs border border-ink bg-paper px-2";

type TextProps = {
  label: string;
  value: string;
  required?: boolean;
  refused?: string | undefined;
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
  const { label, value, refused, suggestions, wide, lines, onChange, onCommit, required } = props;
  const id = useId();
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const commit = () => text !== value && onCommit?.(text);
  const common = {
    id,
    value: text,
    required,
    "aria-invalid": refused ? true : undefined,
    "aria-describedby": refused ? `${id}-help` : undefined,
    onChange: (event: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      setText(event.target.value);
      onChange?.(event.target.value);
    },
    onBlur: commit,
  };
  return (
    <div className={`min-w-0 ${wide ? "col-span-2" : ""}`}>
      <label htmlFor={id} className="condensed block text-xs text-muted">
        {label}
      </label>
      {lines ? (
        <textarea
          {...common}
          className={`rounded-xs border border-ink bg-paper px-2 py-1 w-full ${refused ? "border-over" : ""}`}
          rows={lines}
        />
      ) : (
        <input
          {...common}
          className={`${box} w-full ${refused ? "border-over" : ""}`}
          autoComplete="off"
          list={suggestions ? `${id}-list` : undefined}
          onKeyDown={(event) => event.key === "Enter" && commit()}
        />
      )}
      {suggestions && (
        <datalist id={`${id}-list`}>
          {suggestions.map((entry) => (
            <option key={entry} value={entry} />
          ))}
        </datalist>
      )}
      {refused && (
        <p id={`${id}-help`} className="condensed text-xs text-over">
          ▲ {refused}
        </p>
      )}
    </div>
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
        className={`${box} w-full max-w-full`}
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
