import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export type MenuProps = {
  /** What the button is called where its content does not say it. */
  label?: string;
  className: string;
  align: "start" | "end";
  entries: { key: string | number; label: string; act: () => void }[];
  children: ReactNode;
};
export type OpenedProps = MenuProps & { defaultOpen: boolean };

export function MenuList({ label, className, align, entries, children, defaultOpen }: OpenedProps) {
  return (
    <DropdownMenu.Root defaultOpen={defaultOpen}>
      <DropdownMenu.Trigger className={className} aria-label={label}>
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          className="z-30 min-w-48 border border-ink bg-chalk p-1 shadow-lg"
        >
          {entries.map((entry) => (
            <DropdownMenu.Item
              key={entry.key}
              className="flex min-h-11 cursor-pointer items-center px-3 py-1.5 data-highlighted:bg-ink data-highlighted:text-chalk md:min-h-8"
              onSelect={entry.act}
            >
              {entry.label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
