// Answers to questions that have no address of their own, as last seen on this device.
import { onDevice } from "../lib/onDevice";
import { isUnreachable } from "./client";

/** The answer, kept under a name; where nobody answers, the one kept last. */
export async function lastSeen<T>(name: string, ask: () => Promise<T>): Promise<T> {
  const url = `/seen/${name}`;
  try {
    const found = await ask();
    void onDevice((device) => device.keepAnswer(url, found));
    return found;
  } catch (error) {
    if (!isUnreachable(error)) throw error;
    const kept = await onDevice((device) => device.keptAnswer<T>(url));
    if (kept === undefined) throw error;
    return kept;
  }
}
