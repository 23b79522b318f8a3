import { type ReactNode, useEffect, useRef, useState } from "react";

/** What may be wider than its place: where it is, it scrolls within it, by keyboard too, and the page does not. */
export function Scroll({ label, children }: { label: string; children: ReactNode }) {
  const place = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(false);
  useEffect(() => {
    const element = place.current;
    if (!element) return;
    const seen = new ResizeObserver(() => setWide(element.scrollWidth > element.clientWidth + 1));
    seen.observe(element);
    return () => seen.disconnect();
  }, []);
  const reached = wide ? { tabIndex: 0, role: "region", "aria-label": `${label}: scrolls sideways` } : {};
  return (
    <div ref={place} className="relative overflow-x-auto print:overflow-visible" {...reached}>
      {children}
    </div>
  );
}
