// The dialog holds the page while it is open: a second press that waited behind it would open it again.
const REST_MS = 1000;
let ended = Number.NEGATIVE_INFINITY;

/** Print the page; a double click prints it once. */
export function printPage() {
  if (performance.now() - ended < REST_MS) return;
  print();
  ended = performance.now();
}
