import { useState } from "react";
import { problemText } from "../../api/client";
import { CompareTraces } from "../../charts/CompareTraces";
import { HeatLadder } from "../../charts/HeatLadder";
import { useUnits } from "../../lib/settings";
import type { Quantity } from "../../lib/units";
import { Failure, GroupTitle, StateWord, Working } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { Scroll } from "../../ui/Scroll";
import { Cell, Row, RowHead, Table, unseen } from "../../ui/Table";
import { useSession } from "../session/queries";
import { Why } from "../verdict";
import { bestOf, type Compared, linesOf } from "./differences";
import { useCompareSets } from "./queries";

const drawn: readonly (readonly [string, string, Quantity | "mu"])[] = [
  ["front_surface_C", "Ring face, front", "temperature"],
  ["rear_surface_C", "Ring face, rear", "temperature"],
  ["front_bulk_C", "Ring, mean, front", "temperature"],
  ["rear_bulk_C", "Ring, mean, rear", "temperature"],
  ["front_pad_C", "Pad, front", "temperature"],
  ["rear_pad_C", "Pad, rear", "temperature"],
  ["front_fluid_C", "Fluid, front", "temperature"],
  ["rear_fluid_C", "Fluid, rear", "temperature"],
  ["front_mu", "Friction, front", "mu"],
  ["rear_mu", "Friction, rear", "mu"],
  ["pedal_N", "Pedal force", "force"],
];

type Props = {
  machineId: number;
  keys: string[];
  mixed: boolean;
  onDrop: (key: string) => void;
  onSelect: (key: string) => void;
};

/** Two to four sets side by side: one cursor through all traces, and every figure that differs. */
export function Compare({ machineId, keys, mixed, onDrop, onSelect }: Props) {
  const units = useUnits();
  const currency = useSession().data?.currency ?? "";
  const found = useCompareSets(machineId, keys, mixed);
  const [name, setName] = useState("front_surface_C");
  const [at, setAt] = useState<number | null>(null);
  const [, label, quantity] = drawn.find(([known]) => known === name) ?? drawn[0] ?? ["", "", "temperature"];
  if (found.error) return <Failure text={problemText(found.error)} retry={() => found.refetch()} />;
  if (!found.data) return <Working>Driving the sets side by side…</Working>;
  const sets = found.data.sets.filter((set) => keys.includes(set.key));
  const title = (set: Compared) => titleOf(set, sets);
  const read = (set: Compared, trace: string) => set.traces[trace]?.[at ?? 0] ?? 0;
  const moment =
    at === null
      ? null
      : new Map(
          sets.map((set) => [
            set.key,
            {
              front_C: read(set, "front_surface_C"),
              rear_C: read(set, "rear_surface_C"),
              fluid_C: Math.max(read(set, "front_fluid_C"), read(set, "rear_fluid_C")),
            },
          ]),
        );
  return (
    <section aria-label="Side by side" className="mt-5 border-t border-ink pt-3" aria-busy={found.isFetching}>
      <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
        <GroupTitle>Side by side</GroupTitle>
        <div className="w-48">
          <SelectField
            label="Drawn over the duty"
            value={name}
            options={drawn.map(([value, text]) => [value, text] as const)}
            onChange={setName}
          />
        </div>
      </div>
      <div className="flex flex-wrap gap-x-6">
        <div className="min-w-0 shrink">
          <Scroll label="Heat ladders side by side">
            <HeatLadder
              columns={sets.map((set) => ({ ...set, name: title(set), rejected: set.rejected_for !== null }))}
              fluid={null}
              selected={null}
              system={units.system}
              onSelect={onSelect}
              moment={moment}
            />
            <ol className="flex pl-[56px]" aria-hidden="true">
              {sets.map((set) => (
                <li
                  key={set.key}
                  className="condensed w-[150px] shrink-0 truncate px-2.5 text-xs font-semibold"
                >
                  {title(set)}
                </li>
              ))}
            </ol>
          </Scroll>
        </div>
        <div className="min-w-80 flex-1">
          <CompareTraces
            onCursor={setAt}
            t_s={found.data.t_s}
            traces={sets.map((set) => ({ name: title(set), values: set.traces[name] ?? [] }))}
            label={label}
            quantity={quantity}
            system={units.system}
          />
        </div>
      </div>

      <Table
        label="Differences"
        className="mt-3"
        heads={[
          unseen("Figure", "w-44"),
          ...sets.map((set) => ({
            key: set.key,
            className: "text-sm font-semibold text-ink",
            text: (
              <>
                {title(set)}
                <span className="condensed block text-xs font-normal text-muted">
                  {set.front_rotor}, {set.rear_rotor}
                </span>
                {set.rejected_for && <StateWord state="over">{`out: ${set.rejected_for}`}</StateWord>}
                <button
                  type="button"
                  className="condensed block min-h-6 text-xs font-normal underline underline-offset-2"
                  onClick={() => onDrop(set.key)}
                >
                  Leave out<span className="sr-only">: {title(set)}</span>
                </button>
              </>
            ),
          })),
        ]}
      >
        <tbody>
          {linesOf(units.system, currency).map((line) => {
            const best = bestOf(sets, line);
            return (
              <Row key={line.name}>
                <RowHead className="text-muted">{units.word(line.name)}</RowHead>
                {sets.map((set, index) => (
                  <Cell tight key={set.key} className={`figures ${best[index] ? "font-bold" : ""}`}>
                    {line.topic ? (
                      <Why topic={line.topic} of={set.key} mixed={mixed}>
                        {line.text(line.value(set), set, sets[0])}
                      </Why>
                    ) : (
                      line.text(line.value(set), set, sets[0])
                    )}
                    {best[index] && <span className="condensed font-sans text-xs font-normal"> best</span>}
                  </Cell>
                ))}
              </Row>
            );
          })}
        </tbody>
      </Table>
    </section>
  );
}

/** A compound's name, with its rotor where another of the sets has the same pads. */
function titleOf(set: Compared, sets: Compared[]): string {
  const twins = sets.filter((other) => other.pads === set.pads);
  if (twins.length === 1) return set.pads;
  const front = new Set(twins.map((other) => other.front_rotor)).size > 1;
  return `${set.pads} on ${set.set_up || (front ? set.front_rotor : set.rear_rotor)}`;
}
