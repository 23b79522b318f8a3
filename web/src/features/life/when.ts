import type { Schemas } from "../../api/client";
import { dateText } from "../../lib/text";

export type Event = Schemas["EventOut"];

/** When an event is, with its clock where it has one. */
export function whenText(event: Event): string {
  const until = event.until_on ? ` to ${dateText(event.until_on)}` : "";
  const clock = event.starts_at
    ? `, ${event.starts_at.slice(0, 5)}${event.ends_at ? `–${event.ends_at.slice(0, 5)}` : ""}`
    : "";
  return `${dateText(event.on)}${until}${clock}`;
}
