import type { ReactNode } from "react";

/** Something wider than a phone: it scrolls sideways, by keyboard too. */
export function Scroll({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: without focus nobody could scroll it by keyboard
    <section className="relative overflow-x-auto" aria-label={label} tabIndex={0}>
      {children}
    </section>
  );
}
