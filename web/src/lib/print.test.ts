import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { printPage } from "./print";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test("a double click prints once, also where the second waits behind the dialog; a later press prints again", () => {
  // The dialog stays open for a minute.
  const dialog = vi.fn(() => void vi.advanceTimersByTime(60_000));
  vi.stubGlobal("print", dialog);
  printPage();
  printPage();
  expect(dialog).toHaveBeenCalledTimes(1);
  vi.advanceTimersByTime(1000);
  printPage();
  expect(dialog).toHaveBeenCalledTimes(2);
});
