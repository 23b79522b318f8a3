// Answers to questions that have no address of their own, as last seen on this device.
import { isUnreachable } from "./client";

/** The answer, kept under a name; where nobody answers, the one kept last. */
export async function lastSeen<T>(name: string, ask: () => Promise<T>): Promise<T> {
  const url = `/seen/${name}`;
  const device = () => import("../lib/device");
  try {
    const found = await ask();
    void device()
      .then(({ keepAnswer }) => keepAnswer(url, found))
      .catch(() => undefined);
    return found;
  } catch (error) {
    if (!isUnreachable(error)) throw error;
    const kept = await device()
      .then(({ keptAnswer }) => keptAnswer<T>(url))
      .catch(() => undefined);
    if (kept === undefined) throw error;
    return kept;
  }
}
