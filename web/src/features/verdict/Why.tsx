import type { ReactNode } from "react";
import { type WhyAsk, whyStore } from "./queries";

/** `of` is the key of the set it belongs to: React keeps the word `key` for itself. */
type Props = Omit<WhyAsk, "key"> & { of?: string; children: ReactNode; className?: string };

/** A number that can be opened: a click, or w while it has the focus, shows where it comes from. */
export function Why({ of, children, className = "", ...ask }: Props) {
  return (
    <button
      type="button"
      data-why={ask.topic}
      className={`inline-flex min-h-6 cursor-help items-center justify-end [text-align:inherit] underline decoration-hairline decoration-dotted underline-offset-3 hover:decoration-ink ${className}`}
      onClick={() => whyStore.set(of === undefined ? ask : { ...ask, key: of })}
    >
      {children} <span className="sr-only">Why?</span>
    </button>
  );
}
