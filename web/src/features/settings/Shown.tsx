import { useState } from "react";
import { Button } from "../../ui/basics";

type Props = { label: string; text: string; note: string; onDone: () => void };

/** What is shown once: to copy, and then to put away. */
export function Shown({ label, text, note, onDone }: Props) {
  const [copied, setCopied] = useState(false);
  return (
    <section aria-label={label} className="my-3 max-w-2xl border border-ink p-3">
      <p className="condensed text-xs text-muted">{label}</p>
      <p className="figures my-1 whitespace-pre-line break-all select-all">{text}</p>
      <p className="mb-2 text-muted">{note}</p>
      <div className="flex flex-wrap items-center gap-2">
        <Button
          small
          primary
          onClick={() =>
            // A page without TLS has no clipboard: what is marked by a click is copied by hand.
            navigator.clipboard?.writeText(text).then(
              () => setCopied(true),
              () => undefined,
            )
          }
        >
          Copy
        </Button>
        <Button small onClick={onDone}>
          I have it
        </Button>
        {copied && <span role="status">Copied.</span>}
      </div>
    </section>
  );
}

/** A one-time address as it is handed on. The secret stands behind the #: no server is sent it by a click. */
export const joinAddress = (address: string, secret: string) => `${address}join#${secret}`;

const moments = new Intl.DateTimeFormat(undefined, {
  day: "numeric",
  month: "short",
  year: "numeric",
  hour: "2-digit",
  minute: "2-digit",
});

/** A moment as it is where the reader is. */
export const momentText = (iso: string | null | undefined) => (iso ? moments.format(new Date(iso)) : "never");
