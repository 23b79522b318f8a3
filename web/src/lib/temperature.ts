// The temperature colours: even in lightness, used for nothing but temperature.
import { scaleLinear } from "d3-scale";

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
