import { type ReactNode, startTransition, useEffect, useState } from "react";

/** What may come a moment after the first drawing: it must not hold that up. */
export function Later({ children }: { children: ReactNode }) {
  const [on, setOn] = useState(false);
  useEffect(() => {
    const frame = requestAnimationFrame(() => startTransition(() => setOn(true)));
    return () => cancelAnimationFrame(frame);
  }, []);
  return on ? children : null;
}
