import { parseISO } from "date-fns";
import type { ReactNode } from "react";
import { Scroll } from "../ui/Scroll";

export type SeasonPart = {
  key: string;
  label: string;
  under: string;
  /** What is to be done, over its rule. */
  word: string;
  state: "fine" | "close" | "over";
  /** Events it holds, P10 and P90. */
  low: number;
  high: number;
  /** Of each event: how likely it holds through it; null where it is not on. */
  chances: (number | null)[];
  words: (string | null)[];
};

export type SeasonEvent = { key: string; name: string; on: string };

type Props = {
  events: SeasonEvent[];
  parts: SeasonPart[];
  onOpen: (key: string) => void;
};

const inks = { fine: "text-fine", close: "text-close", over: "text-over" };
const marks: Record<string, { mark: string; ink: string }> = {
  survives: { mark: "●", ink: "text-fine" },
  "take spares": { mark: "◐", ink: "text-close" },
  look: { mark: "◐", ink: "text-close" },
  "change before": { mark: "▲", ink: "text-over" },
};
const COLUMN_REM = 6.4;
const day = new Intl.DateTimeFormat(undefined, { day: "numeric", month: "short" });

/** A likelihood as a figure: 1024 draws tell no more than this. */
export function chanceText(chance: number): string {
  const percent = Math.round(100 * chance);
  if (percent >= 100) return ">99";
  return percent < 1 ? "<1" : percent.toString();
}

/** What survives which event: one steel rule a part, the events as its ticks, how likely it holds under each. */
export function SeasonRules({ events, parts, onOpen }: Props) {
  const percent = (count: number) =>
    `${(100 * Math.min(events.length, Math.max(0, count))) / events.length}%`;
  const columns = { gridTemplateColumns: `repeat(${events.length}, minmax(${COLUMN_REM}rem, 1fr))` };
  const width = { minWidth: `${events.length * COLUMN_REM}rem` };
  const line = (label: ReactNode, content: ReactNode, key: string) => (
    <div key={key} className="grid grid-cols-[9.5rem_minmax(0,1fr)] md:grid-cols-[11rem_minmax(0,1fr)]">
      <div className="sticky left-0 z-[1] bg-chalk pr-2">{label}</div>
      <div style={width}>{content}</div>
    </div>
  );
  return (
    <Scroll label="What survives which event">
      <div className="w-max min-w-full" data-season>
        {line(
          "",
          <div className="grid" style={columns}>
            {events.map((event) => (
              <div key={event.key} className="border-l border-hairline px-1.5 pb-1 text-right">
                <span className="figures block">{day.format(parseISO(event.on))}</span>
                <span className="condensed block truncate text-xs text-muted" title={event.name}>
                  {event.name}
                </span>
              </div>
            ))}
          </div>,
          "head",
        )}
        {parts.map((part) =>
          line(
            <button
              type="button"
              className="w-full py-1.5 text-left"
              data-part={part.key}
              onClick={() => onOpen(part.key)}
            >
              <span className="block font-semibold underline decoration-hairline underline-offset-2">
                {part.label}
              </span>
              <span className="condensed block text-xs text-muted">{part.under}</span>
            </button>,
            <div className="relative pt-1 pb-2">
              <div className="absolute inset-0 grid" style={columns} aria-hidden="true">
                {events.map((event) => (
                  <div key={event.key} className="border-l border-hairline" />
                ))}
              </div>
              <p
                className={`condensed relative truncate px-1.5 text-xs ${part.state === "fine" ? "text-muted" : inks[part.state]}`}
              >
                {part.word}
              </p>
              <div aria-hidden="true" className="relative mt-0.5 h-3 border-b border-ink">
                <div
                  className={`absolute bottom-0 left-0 h-2.5 ${part.chances.some((chance) => chance !== null) ? "bg-fine" : "bg-hairline"}`}
                  style={{ width: percent(part.low) }}
                />
                <div
                  className="absolute bottom-0 h-2.5"
                  style={{
                    left: percent(part.low),
                    width: `calc(${percent(part.high)} - ${percent(part.low)})`,
                    backgroundImage:
                      "repeating-linear-gradient(120deg, var(--ink) 0 1px, transparent 1px 5px)",
                  }}
                />
              </div>
              <ol className="relative grid" style={columns}>
                {part.chances.map((chance, index) => {
                  const event = events[index];
                  const word = part.words[index] ?? "";
                  const look = marks[word];
                  return (
                    <li key={event?.key ?? index} className="px-1.5 text-right" data-word={word || "not on"}>
                      {chance === null || !look ? (
                        <span className="condensed text-xs text-muted">not on</span>
                      ) : (
                        <span className={`figures ${look.ink}`}>
                          <span aria-hidden="true">{look.mark} </span>
                          {chanceText(chance)}
                          <span className="sr-only">
                            {" "}
                            % through {event?.name}: {word}
                          </span>
                        </span>
                      )}
                    </li>
                  );
                })}
              </ol>
            </div>,
            part.key,
          ),
        )}
      </div>
    </Scroll>
  );
}
