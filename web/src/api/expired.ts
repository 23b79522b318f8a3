// A session that ended while the page was open: whatever was asked waits until somebody has signed in again.
import { createStore } from "../lib/store";

export const expiredStore = createStore(false);

/** Ask for a sign-in, and wait for it. */
export function signedInAgain(): Promise<void> {
  expiredStore.set(true);
  return new Promise((resolve) => {
    const leave = expiredStore.subscribe(() => {
      if (expiredStore.get()) return;
      leave();
      resolve();
    });
  });
}
