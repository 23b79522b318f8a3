import { useEffect, useRef, useState } from "react";
import { beginAt } from "../lib/order";
import { type Quantity, type System, unitOf } from "../lib/units";
import { SelectField } from "./fields";
import { NumberField } from "./NumberField";
import { Cell, Row, Table, unseen } from "./Table";

export type Column<T> = {
  name: keyof T & string;
  label: string;
  /** A number of this quantity, or one of a few words. */
  quantity?: Quantity;
  options?: readonly (readonly [string, string])[];
  /** What an empty box means; without it the box must hold a number. */
  empty?: string;
  width: string;
};

type Props<T> = {
  title: string;
  item: string;
  rows: T[];
  columns: Column<T>[];
  system: System;
  blank: () => T;
  /** What a new row takes over from the one before it; without it, all. */
  next?: (last: T) => T;
  onChange: (rows: T[]) => void;
  /** What a cell is called in the data. */
  path?: (index: number, name: string) => string;
};

/** A short table that is typed line by line: add, take out, move. */
export function Rows<T extends object>({
  title,
  item,
  rows,
  columns,
  system,
  blank,
  next = (last) => ({ ...last }),
  onChange,
  path,
}: Props<T>) {
  // Rows have no name of their own: each keeps a key for as long as it is in the table.
  const [keys, setKeys] = useState<number[]>(() => rows.map((_, index) => index));
  const keyed = keys.length === rows.length ? keys : rows.map((_, index) => index);
  const fresh = () => Math.max(-1, ...keyed) + 1;
  const change = (next: T[], nextKeys: number[]) => {
    setKeys(nextKeys);
    onChange(next);
  };
  // A new row is there to be typed into: the hand goes to its first cell, and from its last back to the button.
  const whole = useRef<HTMLDivElement>(null);
  const [added, setAdded] = useState(false);
  useEffect(() => {
    const row = added && whole.current?.querySelector<HTMLElement>("tbody tr:last-child");
    if (row) beginAt(row);
    setAdded(false);
  }, [added]);
  const set = (index: number, name: string, value: unknown) =>
    onChange(rows.map((row, i) => (i === index ? { ...row, [name]: value } : row)));
  const move = (index: number, by: number) => {
    const swap = <V,>(list: V[]) => {
      const copy = [...list];
      const [taken] = copy.splice(index, 1);
      if (taken !== undefined) copy.splice(index + by, 0, taken);
      return copy;
    };
    change(swap(rows), swap(keyed));
  };
  const head = (column: Column<T>) => {
    const symbol = column.quantity ? unitOf(column.quantity, system).symbol : "";
    return symbol ? `${column.label}, ${symbol}` : column.label;
  };
  return (
    <div className="overflow-x-auto" ref={whole}>
      <Table
        label={title}
        width="max-w-3xl"
        heads={[
          unseen("Number", "w-6"),
          ...columns.map((column) => ({ text: head(column), className: column.width })),
          unseen("Order", "w-24"),
        ]}
      >
        <tbody>
          {rows.map((row, index) => (
            <Row key={keyed[index]}>
              <Cell className="figures text-xs text-muted">{index + 1}</Cell>
              {columns.map((column) => (
                <Cell key={column.name} className="pr-2">
                  {column.options ? (
                    <SelectField
                      bare
                      label={`${column.label}, ${item} ${index + 1}`}
                      value={String(row[column.name])}
                      options={column.options}
                      onChange={(value) => set(index, column.name, value)}
                    />
                  ) : (
                    <NumberField
                      bare
                      label={`${column.label}, ${item} ${index + 1}`}
                      quantity={column.quantity ?? "count"}
                      system={system}
                      value={(row[column.name] as number | null | undefined) ?? null}
                      nullable={column.empty !== undefined}
                      placeholder={column.empty}
                      path={path?.(index, column.name)}
                      onCommit={(value) => set(index, column.name, value)}
                    />
                  )}
                </Cell>
              ))}
              <Cell>
                <RowButton
                  label={`Move ${item} ${index + 1} up`}
                  off={index === 0}
                  onClick={() => move(index, -1)}
                >
                  ↑
                </RowButton>
                <RowButton
                  label={`Move ${item} ${index + 1} down`}
                  off={index === rows.length - 1}
                  onClick={() => move(index, 1)}
                >
                  ↓
                </RowButton>
                <RowButton
                  label={`Take out ${item} ${index + 1}`}
                  off={rows.length === 1}
                  onClick={() =>
                    change(
                      rows.filter((_, i) => i !== index),
                      keyed.filter((_, i) => i !== index),
                    )
                  }
                >
                  ×
                </RowButton>
              </Cell>
            </Row>
          ))}
        </tbody>
      </Table>
      <button
        type="button"
        data-stop
        className="mt-2 underline underline-offset-2"
        onClick={() => {
          setAdded(true);
          change([...rows, rows.length ? next(rows[rows.length - 1] as T) : blank()], [...keyed, fresh()]);
        }}
      >
        Add a {item}
      </button>
    </div>
  );
}

type RowButtonProps = { label: string; off: boolean; onClick: () => void; children: string };

function RowButton({ label, off, onClick, children }: RowButtonProps) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={off}
      className="h-8 w-7 disabled:opacity-30"
      onClick={onClick}
    >
      {children}
    </button>
  );
}
