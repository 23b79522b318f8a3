// The sheet of one inspection as its cells see it: what the server has, overlaid with what is still on its way.
import { createContext, useContext } from "react";
import { outboxes, useOutboxOf } from "../../api/outbox";
import { useStore } from "../../lib/store";
import { type Entry, Outbox } from "./outbox";
import { type CellValue, type Inspection, sendCells } from "./queries";

export type Sheet = { inspection: Inspection; outbox: Outbox; open: boolean };
export const SheetContext = createContext<Sheet | null>(null);

export function useSheet(): Sheet {
  const sheet = useContext(SheetContext);
  if (!sheet) throw new Error("a cell stands outside of its sheet");
  return sheet;
}

export type Cell = {
  value: CellValue | undefined;
  before: number | undefined;
  entry: Entry | undefined;
  confirmed: boolean;
  /** Keep a value; null empties the cell. */
  set: (value: CellValue | null, how?: Partial<Entry>) => void;
  drop: () => void;
};

export function useCell(name: string): Cell {
  const { inspection, outbox } = useSheet();
  const entry = useStore(outbox.entries)[name];
  const kept = inspection.cells.find((cell) => cell.name === name);
  const onItsWay = entry?.state === "waiting" ? (entry.value ?? undefined) : undefined;
  return {
    value: entry?.state === "waiting" ? onItsWay : kept?.value,
    before: inspection.before_m[name],
    entry,
    confirmed: kept?.confirmed ?? false,
    set: (value, how) =>
      outbox.put(name, {
        value,
        confirmed: false,
        source: "hand",
        state: "waiting",
        seen: kept?.value ?? null,
        ...how,
      }),
    drop: () => outbox.drop(name),
  };
}

/** The outboxes of inspections. */
export const outboxOf = outboxes(
  (queries, machineId, id) =>
    new Outbox(
      machineId,
      id,
      (cells) => sendCells(id, cells),
      (found) => queries.setQueryData(["inspection", id], found),
      (name) =>
        queries.getQueryData<Inspection>(["inspection", id])?.cells.find((cell) => cell.name === name)
          ?.value ?? null,
    ),
);

export const useOutbox = (machineId: number, id: number) => useOutboxOf(outboxOf, machineId, id);

/** Put the hand into a cell, by its name. */
export function goToCell(name: string) {
  const cell = [...document.querySelectorAll<HTMLElement>("[data-name]")].find(
    (element) => element.dataset.name === name,
  );
  cell?.focus();
  if (cell instanceof HTMLInputElement) cell.select();
}

/** Move on from a cell: Enter in a reading goes to the next reading, then through the picks. */
export function goOn(from: HTMLElement, back = false) {
  const all = [...document.querySelectorAll<HTMLElement>("[data-cell]")];
  const order = [
    ...all.filter((cell) => cell.dataset.cell === "reading"),
    ...all.filter((cell) => cell.dataset.cell === "pick"),
    ...document.querySelectorAll<HTMLElement>("[data-after-cells]"),
  ].filter((cell) => !(cell as HTMLInputElement).disabled);
  const next = order[order.indexOf(from) + (back ? -1 : 1)];
  next?.focus();
  if (next instanceof HTMLInputElement) next.select();
}
