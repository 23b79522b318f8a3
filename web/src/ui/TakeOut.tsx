import { Button } from "./basics";

type Props = { removed?: boolean; of?: string; className?: string; onClick: () => void };

/** Takes a row out of what counts, or brings it back; `of` says which to who hears it. */
export function TakeOut({ removed, of, className = "", onClick }: Props) {
  return (
    <button
      type="button"
      className={`condensed min-h-6 underline underline-offset-2 ${className}`}
      onClick={onClick}
    >
      {removed ? "Bring back" : "Take out"}
      {of && <span className="sr-only">: {of}</span>}
    </button>
  );
}

/** What was just taken out of a list, and the way back for it. */
export function Gone({ name, from, onUndo }: { name: string; from: string; onUndo: () => void }) {
  return (
    <p role="note" className="mb-2 flex flex-wrap items-center gap-3 border border-hairline px-3 py-2">
      {name} is {from}.
      <Button small onClick={onUndo}>
        Undo
      </Button>
    </p>
  );
}
