import type { ComponentProps, ReactNode } from "react";
import { Failure } from "./basics";

type FormProps = {
  /** What it is for, where no heading says so. */
  label?: string;
  onSend: () => void;
  /** Why what was sent was not taken; what was typed stays as it is. */
  failed?: string | null | false;
  children: ReactNode;
} & Pick<ComponentProps<"form">, "className">;

/** Every form of the application: Enter sends it, the page stays, and a refusal stands below what was typed. */
export function Form({ label, onSend, failed, className, children }: FormProps) {
  return (
    <form
      aria-label={label}
      className={className}
      onSubmit={(event) => {
        event.preventDefault();
        onSend();
      }}
    >
      {children}
      {failed && <Failure text={failed} />}
    </form>
  );
}
