import { type KeyboardEvent, useEffect, useId, useRef, useState } from "react";
import { moveOn } from "../lib/order";
import { refusalText } from "../lib/refusals";
import { tyreOf } from "../lib/tyres";
import { figure, figuresText, parse, type Quantity, type System, shownRange, unitOf } from "../lib/units";
import { useGate } from "./gate";

type Props = {
  label: string;
  /** What it is called in the data: links and refusals find the box by it. */
  path?: string | undefined;
  quantity: Quantity;
  value: number | null;
  system: System;
  estimate?: boolean;
  hint?: string;
  /** Why this field was refused, where the page knows more than the server says of its path. */
  refused?: string | undefined;
  /** What is usual, in SI: what lies far outside is asked about once. */
  usual?: Usual | undefined;
  /** A tyre's size may be typed in the place of its radius. */
  tyre?: boolean | undefined;
  nullable?: boolean;
  /** What stands in the empty box. */
  placeholder?: string;
  /** In a table: the column has the label and the unit. */
  bare?: boolean;
  /** Opens the way to measure this number. */
  onMeasure?: () => void;
  /** Gives the number back to the estimate. */
  onLeaveOpen?: () => void;
} & Heard;
type Hear = (value: number | null) => void;
/** Told of what is typed and of what is kept: each by itself, or both alike. */
type Heard =
  | { onChange: Hear; onPreview?: never; onCommit?: never }
  | { onChange?: never; onPreview?: Hear; onCommit: Hear };

/** What a number usually is, and of what: "A hatchback: 1100 to 1400 kg". */
export type Usual = { low: number; high: number; of: string };

/** Whether a value lies so far outside what is usual that a slip is likelier: under half or over twice. */
export function farOutside(value: number, { low, high }: Usual): boolean {
  return (high > 0 && value > 2 * high) || (low > 0 && value < low / 2);
}

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
  const [exact] = shownRange([value, value], quantity, system);
  // Rounded so far that something else stood there than what is kept: as many figures as tell it.
  const told =
    Math.abs(Number(text.replace(/\s/g, "")) - exact) <= 5e-4 * Math.abs(exact)
      ? text
      : figuresText(exact, 4);
  return told.includes(".") ? told.replace(/\.?0+$/, "") : told;
}

/** What was typed and may not be what is meant: nothing is kept until one of the answers is chosen. */
type Asked = { text: string; answers: { value: number; words: string }[] };

/** A number with its unit: takes any common unit, keeps what was typed when it is wrong, and says what is allowed. */
export function NumberField(props: Props) {
  const { label, quantity, value, system, estimate, hint, refused, nullable, bare, usual, tyre } = props;
  const { onMeasure, onLeaveOpen } = props;
  const onPreview = props.onChange ?? props.onPreview;
  const onCommit = props.onChange ?? props.onCommit;
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState(() => shown(value, quantity, system, estimate));
  const [message, setMessage] = useState<string | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [size, setSize] = useState<string | null>(null);
  const sure = useRef<string | null>(null);
  // What was sent, as typed and as it stands since: leaving the box after Enter must not send the same twice.
  const sent = useRef<string[]>([]);
  const gate = useGate({ id, path: props.path, element: () => input.current });

  // A value from elsewhere (saved, undone, other units) replaces the text; a refused text stays as typed.
  useEffect(() => {
    setText(shown(value, quantity, system, estimate));
    setMessage(null);
    setAsked(null);
    sent.current = [];
  }, [value, quantity, system, estimate]);

  const inWords = (number: number) => `${shown(number, quantity, system)} ${symbol}`.trim();

  /** What stands there as a value; null for an empty box, undefined where it is none yet. */
  function read(typed: string): number | null | undefined {
    setAsked(null);
    if (typed.trim() === "" && nullable) {
      setMessage(null);
      return null;
    }
    const wheel = tyre ? tyreOf(typed) : null;
    const parsed = wheel ? { ok: true as const, value: wheel.rolling_m } : parse(typed, quantity, system);
    if (parsed.ok) {
      setMessage(null);
      return parsed.value;
    }
    // Of two readings the one that is usual here is meant.
    const fitting = usual && parsed.either?.filter((either) => !farOutside(either, usual));
    if (fitting?.length === 1 && fitting[0] !== undefined) {
      setMessage(null);
      return fitting[0];
    }
    setMessage(parsed.message);
    if (parsed.either)
      setAsked({ text: typed, answers: parsed.either.map((v) => ({ value: v, words: inWords(v) })) });
    return undefined;
  }

  /** Keep what stands there; false where it cannot be, and the hand stays. */
  function commit(): boolean {
    if (text === shown(value, quantity, system, estimate)) return !message;
    if (sent.current.includes(text)) return true;
    const next = read(text);
    if (next === undefined) return false;
    if (next !== null && usual && farOutside(next, usual) && sure.current !== shown(next, quantity, system)) {
      const two = (bound: number) => shown(bound, quantity, system, true);
      const range = `${two(usual.low)} to ${two(usual.high)} ${symbol}`.trim();
      setMessage(`${inWords(next)}? Usual for ${usual.of}: ${range}.`);
      setAsked({ text, answers: [{ value: next, words: `Yes, ${inWords(next)}` }] });
      return false;
    }
    keep(next, text);
    return true;
  }

  function keep(next: number | null, typed: string) {
    const wheel = tyre ? tyreOf(typed) : null;
    setSize(
      wheel &&
        `${wheel.size} rolls on ${Math.round(wheel.rolling_m * 1000)} mm, of ${Math.round(wheel.free_m * 1000)} mm free`,
    );
    sure.current = next === null ? null : shown(next, quantity, system);
    setMessage(null);
    setAsked(null);
    // What stands there afterwards is what is kept.
    setText(shown(next, quantity, system));
    sent.current = [typed, shown(next, quantity, system)];
    onCommit(next);
  }

  const said = gate.refusal && refusalText(gate.refusal, system, { label, quantity });
  const problem = message ?? refused ?? said;
  const held = message !== null || asked !== null;
  const { hold } = gate;
  useEffect(() => hold(held));
  const symbol = unitOf(quantity, system).symbol;
  const help = problem ? `▲ ${problem}` : (size ?? hint);

  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    if (event.key !== "Enter") return;
    if (!commit()) event.preventDefault();
    else if (!gate.inForm) moveOn(event.currentTarget);
  }

  return (
    <div className="group min-w-0">
      <label htmlFor={id} className={bare ? "sr-only" : "condensed block text-xs text-muted"}>
        {label}
        {estimate && <span className="ml-1 border border-hairline px-1 text-ink">estimate</span>}
      </label>
      <div className="flex items-baseline gap-1.5">
        <input
          ref={input}
          id={id}
          data-path={props.path}
          inputMode={tyre || system === "imperial" ? "text" : "decimal"}
          autoComplete="off"
          value={text}
          placeholder={props.placeholder ?? (nullable ? "none" : undefined)}
          aria-invalid={problem ? true : undefined}
          aria-describedby={help ? `${id}-help` : undefined}
          className={`figures h-8 rounded-xs border bg-paper px-2 text-right text-figure ${bare ? "w-full min-w-14" : "w-24"} ${problem ? "border-over" : "border-ink"} ${estimate ? "border-dashed" : ""}`}
          onChange={(event) => {
            const typed = event.target.value;
            setText(typed);
            setSize(null);
            sent.current = [];
            gate.retyped();
            const next = read(typed);
            const far = typeof next === "number" && usual && farOutside(next, usual);
            if (next !== undefined && !far) onPreview?.(next);
          }}
          onBlur={commit}
          onKeyDown={onKeyDown}
        />
        {!bare && <span className="condensed text-muted">{symbol}</span>}
      </div>
      {help && (
        <p id={`${id}-help`} className={`condensed text-xs ${problem ? "text-over" : "text-muted"}`}>
          {help}
        </p>
      )}
      {asked && (
        <p className="condensed flex flex-wrap gap-x-3 text-xs">
          {asked.answers.map((answer) => (
            <button
              key={answer.words}
              type="button"
              className="min-h-6 underline underline-offset-2"
              onClick={() => {
                keep(answer.value, asked.text);
                input.current?.focus();
              }}
            >
              {answer.words}
              <span className="sr-only">: {label}</span>
            </button>
          ))}
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
