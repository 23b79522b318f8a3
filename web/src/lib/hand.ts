import { useState } from "react";

/** What the hand picked last, until the answer to it is in: a mark follows the hand at once, not the server. */
export function useHand<Picked>(): [Picked | null, (picked: Picked, answered: Promise<unknown>) => void] {
  const [held, setHeld] = useState<{ picked: Picked } | null>(null);
  const pick = (picked: Picked, answered: Promise<unknown>) => {
    // Held as an object of its own: the same thing picked again is another pick.
    const next = { picked };
    setHeld(next);
    // A later pick stays until its own answer; what went wrong is said by whoever asked.
    const done = () => setHeld((now) => (now === next ? null : now));
    answered.then(done, done);
  };
  return [held?.picked ?? null, pick];
}
