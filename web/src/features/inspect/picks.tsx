import { Clash } from "./clash";
import { goOn, useCell, useSheet } from "./sheet";

type PickProps = {
  name: string;
  label: string;
  short: string;
  options: readonly (readonly [string, string])[];
};

/** One of a few words; empty is "not looked at". */
export function PickCell({ name, label, short, options }: PickProps) {
  const { open } = useSheet();
  const cell = useCell(name);
  const words = (value: unknown) => options.find(([word]) => word === (value ?? ""))?.[1] ?? String(value);
  return (
    <div className="min-w-0">
      <label>
        <span aria-hidden="true" className="condensed block truncate text-xs text-muted">
          {short}
        </span>
        <span className="sr-only">{label}</span>
        <select
          data-cell="pick"
          data-name={name}
          disabled={!open}
          className="h-8 w-full rounded-xs border border-ink bg-paper px-1.5 disabled:border-hairline max-md:h-11"
          value={String(cell.value ?? "")}
          onChange={(event) => cell.set(event.target.value || null)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            goOn(event.currentTarget, event.shiftKey);
          }}
        >
          {options.map(([value, text]) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </select>
      </label>
      <Clash cell={cell} words={words} />
    </div>
  );
}

export function TickCell({ name, label, short }: { name: string; label: string; short: string }) {
  const { open } = useSheet();
  const cell = useCell(name);
  return (
    <div>
      <label className="flex min-h-6 items-baseline gap-2 max-md:min-h-9 max-md:items-center">
        <input
          type="checkbox"
          className="accent-ink"
          disabled={!open}
          checked={cell.value === true}
          onChange={(event) => cell.set(event.target.checked ? true : null)}
        />
        <span aria-hidden="true">{short}</span>
        <span className="sr-only">{label}</span>
      </label>
      <Clash cell={cell} words={(value) => (value === true ? "a tick" : "no tick")} />
    </div>
  );
}
