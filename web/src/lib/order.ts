// The order in which a hand goes through fields.

const stops =
  "input:not([type=hidden]):not([type=file]), select, textarea, button[type=submit], button[data-stop]";

/** What can be reached and is on the screen, in order. */
function reachable(scope: ParentNode): HTMLElement[] {
  return [...scope.querySelectorAll<HTMLElement>(stops)].filter(
    (element) => !element.matches(":disabled") && !element.closest("details:not([open]), [hidden]"),
  );
}

/** Whether Enter in this element goes on to the next one: not in several lines of text, not on a button. */
export function movesOn(element: EventTarget): element is HTMLElement {
  return (
    (element instanceof HTMLInputElement && !/^(submit|button|file|reset)$/.test(element.type)) ||
    element instanceof HTMLSelectElement
  );
}

/** Put the hand on the next field of the form, or of the page where there is none. */
export function moveOn(from: HTMLElement): void {
  const all = reachable(from.closest("form") ?? from.closest("main") ?? document);
  // A group of radio buttons is one stop.
  const group = from instanceof HTMLInputElement && from.type === "radio" ? from.name : null;
  const next = all
    .slice(all.indexOf(from) + 1)
    .find((element) => group === null || (element as HTMLInputElement).name !== group);
  take(next);
}

/** The hand on a field, what stands in it marked: what is typed takes its place. */
function take(field: HTMLElement | undefined): void {
  field?.focus();
  if (field instanceof HTMLInputElement && field.type === "text") field.select();
}

/** Put the hand on the first field of a form. */
export function beginAt(form: HTMLElement): void {
  take(reachable(form)[0]);
}

/** Put the hand on one of these, the first on the page, opening what it is folded into. */
export function goToFirst(elements: Iterable<HTMLElement>): void {
  const [first] = [...elements].sort((a, b) =>
    a.compareDocumentPosition(b) & Node.DOCUMENT_POSITION_FOLLOWING ? -1 : 1,
  );
  for (let fold = first?.closest("details"); fold; fold = fold.parentElement?.closest("details"))
    fold.open = true;
  first?.scrollIntoView?.({ block: "center" });
  first?.focus();
}
