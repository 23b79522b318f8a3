// Whether the server answers: the page says so where it does not, and computes nothing that nobody would compute.
import { createStore } from "./store";

export const connectedStore = createStore(true);

const AGAIN_MS = 4000;
let waiting = false;

// A question that costs the server little.
const ping = () => globalThis.fetch("/api/session");

/** Whether the server answers at this moment. */
export const answers = (): Promise<boolean> =>
  ping().then(
    () => {
      found();
      return true;
    },
    () => {
      lost();
      return false;
    },
  );

/** A request got no answer: ask until one does, then say so. */
export function lost(): void {
  connectedStore.set(false);
  if (waiting) return;
  waiting = true;
  setTimeout(() => {
    waiting = false;
    ping().then(found, lost);
  }, AGAIN_MS);
}

/** An answer came, whatever it says. */
export function found(): void {
  if (!connectedStore.get()) connectedStore.set(true);
}
