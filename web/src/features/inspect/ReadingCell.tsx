import { useEffect, useId, useRef, useState } from "react";
import { useUnits } from "../../lib/settings";
import { figure, parse, type Quantity, type System, unitOf, withUnit as unitText } from "../../lib/units";
import { shown } from "../../ui/NumberField";
import { Answer, Clash } from "./clash";
import type { CellValue } from "./queries";
import { goOn, useCell, useSheet } from "./sheet";

// Keys that follow each other faster than this come from a gauge that types.
const GAUGE_MS_PER_KEY = 35;

type Props = {
  name: string;
  label: string;
  quantity?: Quantity;
  /** Label shown to the eye; the full label is for those who cannot see where the cell stands. */
  short?: string;
  wide?: boolean;
  /** Its unit stands beside the box; otherwise the label has it. */
  unit?: boolean;
  /** One of the readings Enter walks through. */
  reading?: boolean;
  hint?: string;
  /** What holds while the cell is empty, where it is not the reading before. */
  otherwise?: number | string;
  /** What stands at the end of the label's line. */
  aside?: React.ReactNode;
};

/** As fine as a gauge reads, µm or ten-thousandths of an inch: more digits would not fit into the cell. */
function cellText(value: number | null, quantity: Quantity, system: System): string {
  if (value === null || quantity !== "reading") return shown(value, quantity, system);
  return Number(figure(value, quantity, system, system === "metric" ? 3 : 4)).toString();
}

function shownCell(value: CellValue | null, quantity: Quantity, system: System): string {
  if (value === null) return "nothing";
  return typeof value === "number" ? unitText(value, quantity, system) : String(value);
}

/** One reading: Enter keeps it and goes to the next cell; what cannot be asks here and stays as typed. */
export function ReadingCell(props: Props) {
  const { name, label, quantity = "reading", short, wide, unit, reading, hint, otherwise, aside } = props;
  const { say, system, withUnit } = useUnits();
  const { open } = useSheet();
  const cell = useCell(name);
  const id = useId();
  const keys = useRef({ first: 0, count: 0 });
  // Leaving the box after Enter must not send the same twice.
  const done = useRef<string | null>(null);
  const entry = cell.entry;
  const number = typeof cell.value === "number" ? cell.value : null;
  const asked = entry && entry.state !== "waiting" && typeof entry.value === "number" ? entry.value : null;
  const standing = entry?.text ?? cellText(asked ?? number, quantity, system);
  const before = otherwise ?? cell.before;
  const [text, setText] = useState(standing);
  useEffect(() => setText(standing), [standing]);

  function commit(): boolean {
    const { first, count } = keys.current;
    keys.current = { first: 0, count: 0 };
    if (text === standing || text === done.current) return entry?.state !== "wrong";
    done.current = text;
    if (text.trim() === "") {
      if (number === null) cell.drop();
      else cell.set(null);
      return true;
    }
    const parsed = parse(text, quantity, system);
    if (!parsed.ok) {
      cell.set(null, { state: "wrong", text, message: parsed.message });
      return false;
    }
    const source = count > 0 && performance.now() - first < GAUGE_MS_PER_KEY * count ? "gauge" : "hand";
    cell.set(parsed.value, { source });
    return true;
  }

  const trouble = entry && entry.state !== "waiting" ? entry : undefined;
  const symbol = unitOf(quantity, system).symbol;
  return (
    <div className="min-w-0">
      <div className="flex items-baseline justify-between gap-2">
        <label htmlFor={id} className="condensed block truncate text-xs text-muted">
          {short ? (
            <>
              <span aria-hidden="true">{short}</span>
              <span className="sr-only">{label}</span>
            </>
          ) : (
            label
          )}
        </label>
        {aside}
      </div>
      <div className="flex items-baseline gap-1">
        <input
          id={id}
          data-cell={reading ? "reading" : "pick"}
          data-name={name}
          data-dirty={text !== standing || undefined}
          data-state={entry?.state ?? (number === null ? "empty" : "kept")}
          inputMode="decimal"
          autoComplete="off"
          disabled={!open}
          value={text}
          placeholder={typeof before === "number" ? cellText(before, quantity, system) : before}
          aria-invalid={trouble ? true : undefined}
          aria-describedby={trouble || hint ? `${id}-help` : undefined}
          className={`figures h-8 scroll-my-24 rounded-xs border bg-paper px-1.5 text-right text-figure outline-offset-0 placeholder:text-muted max-md:h-11 max-md:px-1 max-md:tracking-tight ${wide ? "w-24" : "w-full min-w-0"} ${trouble ? "border-over" : "border-ink"} disabled:border-hairline`}
          onChange={(event) => {
            if (keys.current.count === 0) keys.current.first = performance.now();
            keys.current.count += Math.max(1, event.target.value.length - text.length);
            done.current = null;
            setText(event.target.value);
          }}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            const field = event.currentTarget;
            if (commit()) goOn(field, event.shiftKey);
            else field.select();
          }}
        />
        {(wide || unit) && <span className="condensed text-muted">{symbol}</span>}
      </div>
      {trouble ? (
        <div
          id={`${id}-help`}
          role={trouble.state === "clash" ? undefined : "alert"}
          className="condensed text-xs text-over"
        >
          {trouble.state === "clash" ? (
            <Clash cell={cell} words={(value) => shownCell(value, quantity, system)} />
          ) : (
            <p>
              <span aria-hidden="true">▲ </span>
              {typeof trouble.message === "object" ? say(trouble.message) : trouble.message}
            </p>
          )}
          {trouble.state === "asks" && typeof trouble.value === "number" && (
            <p className="flex flex-wrap gap-x-3 py-0.5">
              <Answer onClick={() => cell.set(trouble.value, { confirmed: true, source: trouble.source })}>
                It is right, keep it
              </Answer>
              {typeof trouble.inInches === "number" && system === "metric" && (
                <Answer onClick={() => cell.set(trouble.inInches as number, { source: trouble.source })}>
                  It was inches: {withUnit(trouble.inInches, quantity)}
                </Answer>
              )}
              {typeof trouble.inMm === "number" && system === "imperial" && (
                <Answer onClick={() => cell.set(trouble.inMm as number, { source: trouble.source })}>
                  It was mm: {unitText(trouble.inMm, quantity, "metric")}
                </Answer>
              )}
              <Answer onClick={cell.drop}>Take it out</Answer>
            </p>
          )}
          {(trouble.state === "wrong" || trouble.state === "refused") && (
            <Answer onClick={cell.drop}>Take it out</Answer>
          )}
        </div>
      ) : (
        hint && (
          <p id={`${id}-help`} className="condensed text-xs text-muted">
            {hint}
          </p>
        )
      )}
      {cell.confirmed && !trouble && (
        <p className="condensed text-xs text-muted">asked about, said to be right</p>
      )}
    </div>
  );
}
