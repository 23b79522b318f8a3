import type { ButtonHTMLAttributes, ReactNode } from "react";
import { Link } from "react-router";
import { connectedStore } from "../lib/connection";
import { useStore } from "../lib/store";

export type State = "fine" | "close" | "over";

const marks: Record<State, string> = { fine: "●", close: "◐", over: "▲" };
const colours: Record<State, string> = { fine: "text-fine", close: "text-close", over: "text-over" };

/** A state as colour, mark and word together: none of them is left to stand alone. */
export function StateWord({ state, children }: { state: State; children?: ReactNode }) {
  return (
    <span data-state={state} className={`condensed font-semibold ${colours[state]}`}>
      <span aria-hidden="true">{marks[state]} </span>
      {children ?? state}
    </span>
  );
}

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { primary?: boolean; small?: boolean };

/** What is pressed looks like this, a button or a link. */
export function buttonLook(primary = false, small = false): string {
  const colours = primary ? "bg-ink text-chalk hover:opacity-85" : "bg-transparent text-ink hover:bg-paper";
  const size = small ? "min-h-7 px-2.5 py-0.5" : "min-h-9 px-3.5 py-1.5";
  return `rounded-xs border border-ink font-semibold ${size} ${colours}`;
}

export function Button({ primary, small, className = "", ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`disabled:opacity-45 ${buttonLook(primary, small)} ${className}`}
      {...rest}
    />
  );
}

type LinkProps = { primary?: boolean; small?: boolean; to: string; children: ReactNode };

/** A link to the next thing to do: it looks like a button, and goes somewhere. */
export function LinkButton({ primary, small, to, children }: LinkProps) {
  return (
    <Link
      to={to}
      className={`inline-flex items-center justify-center bay:min-h-11! ${buttonLook(primary, small)}`}
    >
      {children}
    </Link>
  );
}

export function StageTitle({
  title,
  note,
  children,
}: {
  title: string;
  note?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <header className="mb-4 flex flex-wrap items-start justify-between gap-3">
      <div>
        <h1 className="text-stage font-semibold leading-tight">{title}</h1>
        {note && <p className="condensed mt-0.5 text-muted">{note}</p>}
      </div>
      {children && <div className="flex flex-wrap gap-2">{children}</div>}
    </header>
  );
}

/** A short word of care where it applies. */
export function Caution({ children }: { children: ReactNode }) {
  return (
    <p role="note" className="mt-4 border-t border-hairline pt-2 text-muted">
      <span className="font-semibold text-ink">Take care. </span>
      {children}
    </p>
  );
}

/** A failure that stays until it is dealt with. */
export function Failure({ text, retry }: { text: string; retry?: () => void }) {
  return (
    <div role="alert" className="my-2 flex flex-wrap items-center gap-3 border border-over px-3 py-2">
      <StateWord state="over">{text}</StateWord>
      {retry && <Button onClick={retry}>Retry</Button>}
    </div>
  );
}

export function Working({ children }: { children: ReactNode }) {
  const connected = useStore(connectedStore);
  return (
    <p role="status" className="condensed py-2 text-muted">
      {connected ? children : "No connection: this is computed once there is one."}
    </p>
  );
}

/** A heading over a group on the side or in a form. */
export function GroupTitle({ children }: { children: ReactNode }) {
  return <h2 className="mb-2 font-semibold">{children}</h2>;
}

export function Figure({ label, value, unit }: { label: string; value: ReactNode; unit?: string }) {
  return (
    <div>
      <dt className="condensed text-xs text-muted">{label}</dt>
      <dd>
        <span className="figures text-figure font-semibold">{value}</span>
        {unit && <span className="condensed text-muted"> {unit}</span>}
      </dd>
    </div>
  );
}
