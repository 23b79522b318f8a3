import { useState } from "react";
import { Link } from "react-router";
import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import type { Quantity } from "../../lib/units";
import { Button, Failure, type State, StateWord } from "../../ui/basics";
import { NumberField } from "../../ui/NumberField";
import { Cell, Row, RowHead, right, Table } from "../../ui/Table";
import { useChangeMachine, useMachine } from "../machine/queries";
import { PathField } from "./Measured";
import { type AxleFit, type Fit, useMeasurePart } from "./queries";

type Line = Schemas["RowOut"];
type Props = { machineId: number; fit: Fit; axle: AxleFit };

const states: Record<Line["verdict"], State> = {
  fits: "fine",
  look: "close",
  measure: "close",
  "does not fit": "over",
};

/** A row that says how much room there is, beside how much there must be. */
const room = (row: Line) => ["edge", "wheel", "spokes"].includes(row.name);

/** Old parts against new, one table; a number nobody has is asked for where it belongs, with how it is measured. */
export function Compared({ machineId, fit, axle }: Props) {
  const units = useUnits();
  const [editing, setEditing] = useState(false);
  const machine = useMachine(machineId).data;
  const change = useChangeMachine(machineId);
  const measure = useMeasurePart(machineId);
  const shown = (row: Line, value: number | null) =>
    value === null || row.quantity === "word" ? "" : units.figure(value, row.quantity as Quantity);
  return (
    <section data-boxes>
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2 className="font-semibold">Old against new, {axle.axle}</h2>
        <Button small aria-pressed={editing} onClick={() => setEditing(!editing)}>
          {editing ? "Done correcting" : "Correct a number"}
        </Button>
      </div>
      <Table
        label={`Old against new, ${axle.axle}`}
        heads={["", right("on it"), right("new"), right("may differ", "max-sm:hidden"), ""]}
      >
        <tbody>
          {axle.rows.map((row) => (
            <Row key={`${row.part}.${row.name}`} data-row={row.name}>
              <RowHead>
                {row.label}
                {row.quantity === "bore" || row.quantity === "thickness" ? (
                  <span className="text-muted"> {units.symbol("bore")}</span>
                ) : null}
                {row.verdict === "measure" && <span className="block text-xs text-muted">{row.how}</span>}
              </RowHead>
              <Cell figures>
                {row.old_path && (editing || row.old === null) ? (
                  <PathField
                    path={row.old_path}
                    label={`${row.label}, on it`}
                    quantity={row.quantity as Quantity}
                    bare
                    values={machine?.values ?? {}}
                    change={change}
                  />
                ) : (
                  `${room(row) ? "≥ " : ""}${shown(row, row.old)}`
                )}
              </Cell>
              <Cell figures>
                {row.room_path && (editing || row.new === null) ? (
                  <PathField
                    path={row.room_path}
                    label={row.room_label}
                    quantity={row.quantity as Quantity}
                    bare
                    values={machine?.values ?? {}}
                    change={change}
                  />
                ) : row.new_name && (editing || row.new === null) ? (
                  <NumberField
                    label={`${row.label}, new`}
                    path={`${axle.axle}.${row.part}.${row.new_name}`}
                    quantity={row.quantity as Quantity}
                    system={units.system}
                    value={row.measured ?? null}
                    nullable
                    bare
                    placeholder={shown(row, row.new) || "?"}
                    onCommit={(value) =>
                      measure.mutate({
                        key: fit.key,
                        axle: axle.axle,
                        part: row.part,
                        name: row.new_name,
                        value,
                        seen: row.measured ?? null,
                      })
                    }
                  />
                ) : (
                  shown(row, row.new)
                )}
              </Cell>
              <Cell figures className="max-sm:hidden">
                {shown(row, row.may_differ)}
              </Cell>
              <Cell>
                <StateWord state={states[row.verdict]}>{units.say(row.text)}</StateWord>
                {row.name === "wheel" && row.new === null && (
                  <Link
                    className="condensed ml-2 underline underline-offset-2"
                    to={`/m/${machineId}/machine`}
                  >
                    Wheel and caliper under Machine
                  </Link>
                )}
              </Cell>
            </Row>
          ))}
        </tbody>
      </Table>
      {change.error && <Failure text={problemText(change.error)} />}
      {measure.error && <Failure text={problemText(measure.error)} />}
    </section>
  );
}
