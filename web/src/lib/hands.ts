// A rider brakes with a lever: what is said of a machine's pedal is said of that.
import { createStore } from "./store";

/** Whether the machine at hand is ridden; the shell says so. */
export const riddenStore = createStore(false);

/** Words about a pedal, for whoever pulls a lever instead. */
export function leverText(text: string): string {
  return text
    .replace(/\b([Pp])edals?\b/g, (_, p: string) => (p === "P" ? "Lever" : "lever"))
    .replace(/\bunder the foot\b/g, "at the lever's end")
    .replace(/\bpivot to foot over pivot to pushrod\b/g, "pivot to fingers over pivot to piston");
}
