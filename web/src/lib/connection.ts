// Whether the server answers: the page says so where it does not, and computes nothing that nobody would compute.
import { useEffect, useRef } from "react";
import { createStore, useStore } from "./store";

/** Set on an answer that came from the device; `lib/device.ts` has it too, so that every page need not fetch that. */
export const FROM_DEVICE = "X-From-Device";

export const connectedStore = createStore(true);

const AGAIN_MS = 4000;
let waiting = false;

/** Whether the server answers at this moment: a question that costs it little. */
export const answers = (): Promise<boolean> =>
  globalThis.fetch("/api/session").then(
    (response) => {
      if (response.headers.has(FROM_DEVICE)) {
        lost();
        return false;
      }
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
    void answers();
  }, AGAIN_MS);
}

/** An answer came, whatever it says. */
export function found(): void {
  if (!connectedStore.get()) connectedStore.set(true);
}

/** Do something each time the server answers again, and say whether it does now. */
export function useConnected(onAgain: () => void): boolean {
  const connected = useStore(connectedStore);
  const was = useRef(connected);
  useEffect(() => {
    if (connected && !was.current) onAgain();
    was.current = connected;
  }, [connected, onAgain]);
  return connected;
}
