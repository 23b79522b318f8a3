import type { State } from "./basics";

const fills: Record<State, string> = { fine: "bg-fine", close: "bg-close-fill", over: "bg-over" };

type Props = { fill: number; notch: number; state: State; ticks?: number; band?: [number, number] };

/** A short steel rule: fine ticks, a limit notch, a filled length, and hatching for a forecast's range. */
export function SteelRule({ fill, notch, state, ticks = 40, band }: Props) {
  const percent = (share: number) => `${Math.min(1, Math.max(0, share)) * 100}%`;
  return (
    <div aria-hidden="true" className="relative mt-1 h-3.5 border-b border-ink">
      <div className={`absolute bottom-0 left-0 h-2 ${fills[state]}`} style={{ width: percent(fill) }} />
      {band && (
        <div
          className="absolute bottom-0 h-2 bg-paper"
          style={{
            left: percent(band[0]),
            width: percent(band[1] - band[0]),
            backgroundImage: "repeating-linear-gradient(120deg, var(--ink) 0 1px, transparent 1px 5px)",
          }}
        />
      )}
      <div
        className="absolute bottom-0 left-0 h-1.5 w-full"
        style={{
          backgroundImage: `repeating-linear-gradient(to right, var(--ink) 0 1px, transparent 1px calc(100% / ${ticks}))`,
          opacity: 0.55,
        }}
      />
      <div
        className="absolute -top-0.5 h-0 w-0 -translate-x-1/2 border-x-4 border-t-6 border-x-transparent border-t-ink"
        style={{ left: percent(notch) }}
      />
    </div>
  );
}
