import { DropdownMenu } from "radix-ui";
import type { OpenedProps } from "./menus";

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
