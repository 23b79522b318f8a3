import { Slider } from "radix-ui";

type Props = {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  shown: string;
  onChange: (value: number) => void;
  onCommit?: (value: number) => void;
};

/** A slider drawn as a tick-ruled bar; it tells every change, and the last of a movement as committed. */
export function RuleSlider({ label, value, min, max, step, shown, onChange, onCommit }: Props) {
  return (
    <div className="mb-1">
      <div className="flex items-baseline justify-between">
        <span className="condensed">{label}</span>
        <span className="figures font-semibold">{shown}</span>
      </div>
      <Slider.Root
        className="relative flex h-6 w-full touch-none select-none items-center"
        value={[value]}
        min={min}
        max={max}
        step={step}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        onValueCommit={([next]) => next !== undefined && onCommit?.(next)}
      >
        <Slider.Track className="relative h-2 w-full border-b border-ink">
          <span
            aria-hidden="true"
            className="absolute inset-0"
            style={{
              backgroundImage: "repeating-linear-gradient(to right, var(--ink) 0 1px, transparent 1px 10%)",
              opacity: 0.6,
            }}
          />
          <Slider.Range className="absolute bottom-0 h-1 bg-ink" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={label}
          aria-valuetext={shown}
          className="block h-4 w-2.5 border border-ink bg-paper focus-visible:outline-2"
        />
      </Slider.Root>
    </div>
  );
}
