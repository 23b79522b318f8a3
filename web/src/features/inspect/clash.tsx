import type { CellValue } from "./queries";
import type { Cell } from "./sheet";

/** What to do where somebody else has entered something else meanwhile: nothing is written over unseen. */
export function Clash({ cell, words }: { cell: Cell; words: (value: CellValue | null) => string }) {
  const { entry } = cell;
  if (entry?.state !== "clash") return null;
  const { value, theirs = null, source } = entry;
  return (
    <div role="alert" className="condensed text-xs text-over">
      <p>
        <span aria-hidden="true">▲ </span>
        Somebody else has entered {words(theirs)} meanwhile.
      </p>
      <p className="flex flex-wrap gap-x-3 py-0.5">
        <Answer onClick={() => cell.set(value, { source, seen: theirs })}>Keep mine, {words(value)}</Answer>
        <Answer onClick={cell.drop}>Keep theirs</Answer>
      </p>
    </div>
  );
}

export function Answer({ onClick, children }: { onClick: () => void; children: React.ReactNode }) {
  return (
    <button type="button" className="min-h-6 font-semibold underline underline-offset-2" onClick={onClick}>
      {children}
    </button>
  );
}
