import type { ComponentProps, ReactNode } from "react";
import { Scroll } from "./Scroll";

export type Head = { text: ReactNode; right?: boolean; className?: string; key?: string };

/** The head of a column of figures, which stand at its right. */
export function right(text: ReactNode, className = ""): Head {
  return { text, right: true, className };
}

/** The head of a column that only a screen reader needs to be told the name of. */
export function unseen(name: string, className = ""): Head {
  return { text: <span className="sr-only">{name}</span>, className };
}

type TableProps = {
  label?: string;
  caption?: string;
  /** Words stand at the left, figures at the right. */
  heads?: (string | Head)[];
  /** Of how many widths a table is: all it can get, or what is comfortable to read. */
  width?: string;
  children: ReactNode;
} & Omit<ComponentProps<"table">, "children">;

/** Every table of the application: one head, one line between rows, figures that stand one below the other. */
export function Table({ label, caption, heads, width = "", children, className = "", ...rest }: TableProps) {
  return (
    <Scroll label={label ?? caption ?? "Table"}>
      <table className={`relative w-full ${width} ${className}`} aria-label={label} {...rest}>
        {caption && <caption className="sr-only">{caption}</caption>}
        {heads && (
          <thead>
            <tr className="condensed border-b border-ink text-left align-bottom text-xs text-muted">
              {heads.map((entry, index) => {
                const head: Head = typeof entry === "string" ? { text: entry } : entry;
                return (
                  <th
                    key={head.key ?? index}
                    className={`py-1 pr-3 font-normal ${head.right ? "text-right" : ""} ${head.className ?? ""}`}
                  >
                    {head.text}
                  </th>
                );
              })}
            </tr>
          </thead>
        )}
        {children}
      </table>
    </Scroll>
  );
}

export function Row({ className = "", ...rest }: ComponentProps<"tr">) {
  return <tr className={`border-b border-hairline align-baseline ${className}`} {...rest} />;
}

type CellProps = { figures?: boolean; tight?: boolean } & ComponentProps<"td">;

/** A cell; `figures` stand at the right, one below the other. */
export function Cell({ figures, tight, className = "", ...rest }: CellProps) {
  const kind = figures ? "figures whitespace-nowrap text-right" : "";
  return <td className={`${tight ? "py-0.5" : "py-1.5"} pr-3 ${kind} ${className}`} {...rest} />;
}

/** The name of a row. */
export function RowHead({ className = "", ...rest }: ComponentProps<"th">) {
  return <th scope="row" className={`condensed py-1 pr-3 text-left font-normal ${className}`} {...rest} />;
}
