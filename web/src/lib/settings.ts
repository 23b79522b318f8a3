import { leverText, riddenStore } from "./hands";
import { type Said, saidText } from "./said";
import { createStore, useStore } from "./store";
import { figure, type Quantity, type System, unitOf, withUnit } from "./units";

export const systemStore = createStore<System>("metric", "thermaxis.units");
export const themeStore = createStore<"light" | "dark">("light", "thermaxis.theme");
/** Keys that act by themselves: off for who speaks to the page, or whose hand shakes (WCAG 2.1.4). */
export const keysStore = createStore<"on" | "off">("on", "thermaxis.keys");
export const switchUnits = () => systemStore.set(systemStore.get() === "metric" ? "imperial" : "metric");
export const switchTheme = () => themeStore.set(themeStore.get() === "light" ? "dark" : "light");
export const bayStore = createStore<"off" | "on">("off", "thermaxis.bay");
export const switchBay = () => bayStore.set(bayStore.get() === "off" ? "on" : "off");

/** Formatting in the user's units; components redraw when the units change. */
export function useUnits() {
  const system = useStore(systemStore);
  const ridden = useStore(riddenStore);
  const word = (text: string) => (ridden ? leverText(text) : text);
  return {
    system,
    figure: (value: number, quantity: Quantity, digits?: number) => figure(value, quantity, system, digits),
    withUnit: (value: number, quantity: Quantity, digits?: number) =>
      withUnit(value, quantity, system, digits),
    say: (said: Said | string) => (typeof said === "string" ? said : word(saidText(said, system))),
    /** Fixed words about a pedal, as they are for the machine at hand. */
    word,
    symbol: (quantity: Quantity) => unitOf(quantity, system).symbol,
  };
}
