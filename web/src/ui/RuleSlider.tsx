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
        className="relative -mx-3 flex h-6 touch-none select-none items-center bay:-mx-[22px] bay:h-11"
        value={[value]}
        min={min}
        max={max}
        step={step}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        onValueCommit={([next]) => next !== undefined && onCommit?.(next)}
      >
        {/* The handle stays within the slider: the bar begins and ends where its middle does. */}
        <Slider.Track className="relative mx-3 h-2 flex-1 border-b border-ink bay:mx-[22px]">
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
          className="grid size-6 place-items-center focus-visible:outline-2 bay:size-11"
        >
          <span aria-hidden="true" className="h-4 w-2.5 border border-ink bg-paper" />
        </Slider.Thumb>
      </Slider.Root>
    </div>
  );
}
