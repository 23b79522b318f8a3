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
