// The temperature colours: even in lightness, used for nothing but temperature.
import { scaleLinear } from "d3-scale";
import { type System, shownRange } from "./units";

export const ramp: [number, string][] = [
  [0, "#2f3f5c"],
  [150, "#44527f"],
  [300, "#7a5a8c"],
  [450, "#b0607a"],
  [600, "#db7b58"],
  [750, "#eeab52"],
  [900, "#f6e08a"],
];

export const temperatureColour = scaleLinear<string>()
  .domain(ramp.map(([at]) => at))
  .range(ramp.map(([, colour]) => colour))
  .clamp(true);

/** Lines of a temperature axis from 0 °C up: at round figures of the reader's unit, about 100 K apart. */
export function temperatureMarks(top_C: number, system: System): { at_C: number; text: string }[] {
  const [low, high] = shownRange([0, top_C], "temperature", system);
  const toCelsius = scaleLinear([low, high], [0, top_C]);
  return toCelsius.ticks(top_C / 100).map((shown) => ({ at_C: toCelsius(shown), text: String(shown) }));
}
