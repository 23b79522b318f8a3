import { Link } from "react-router";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { changeIn, fieldText, fieldValueText, twoFiguresText } from "../../lib/text";
import { Caution, Failure, GroupTitle, Working } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { Cell, Row, right, Table } from "../../ui/Table";
import { HowSure, Influences } from "./HowSure";
import { useRanges, useWhy, whyStore } from "./queries";

const strip = ["rotor", "window", "pedal", "fluid", "life"];

/** Opens one number: its formula with this machine's values, its inputs, which are estimates, how far each moves it. */
export function WhyDrawer({ machineId }: { machineId: number }) {
  const ask = useStore(whyStore);
  const why = useWhy(machineId, ask);
  const reading = ask && !ask.key && strip.includes(ask.topic) ? ask.topic : null;
  const ranges = useRanges(machineId, reading !== null);
  const { say, system } = useUnits();
  const change = changeIn(why.data?.unit ?? "", system);
  const close = () => whyStore.set(null);
  return (
    <Drawer open={ask !== null} onClose={close} title={why.data?.title ?? "Why"}>
      {why.isPending && (
        <Working>
          {ask?.topic === "chance"
            ? "Running the set with its estimates off…"
            : "Solving the duty again with each input 10 % off…"}
        </Working>
      )}
      {why.error && <Failure text={problemText(why.error)} retry={() => why.refetch()} />}
      {why.data && (
        <div className="space-y-4">
          <p className="figures border-l-2 border-ink pl-3 text-sm">{why.data.formula}</p>
          <div>
            <p className="figures text-sm">{say(why.data.numbers)}</p>
          </div>
          {ranges && reading && <HowSure reading={reading} ranges={ranges} />}
          <Influences of="the way to the nearest limit" shares={why.data.decided_by ?? []} />
          {why.data.inputs.length > 0 && (
            <section>
              <GroupTitle>If an input is 10 % greater</GroupTitle>
              <Table
                heads={["Input", right("value"), right(change.unit ? `change, ${change.unit}` : "change")]}
              >
                <tbody>
                  {why.data.inputs.map((input) => (
                    <Row key={input.field}>
                      <Cell>
                        <Link
                          className="underline decoration-dotted underline-offset-2"
                          to={placeOf(machineId, input.field, ask?.key)}
                          onClick={close}
                        >
                          {fieldText(input.field)}
                        </Link>
                        {input.estimate && (
                          <span className="condensed ml-1 border border-hairline px-1 text-xs">estimate</span>
                        )}
                      </Cell>
                      <Cell figures>{fieldValueText(input.field, input.value, system)}</Cell>
                      <Cell figures>{twoFiguresText(change.of(input.change))}</Cell>
                    </Row>
                  ))}
                </tbody>
              </Table>
            </section>
          )}
          {Object.keys(why.data.energy).length > 0 && (
            <section>
              <GroupTitle>Where the energy went, MJ</GroupTitle>
              <Table>
                <tbody>
                  {Object.entries(why.data.energy).map(([name, joules]) => (
                    <Row key={name}>
                      <Cell tight>{name}</Cell>
                      <Cell tight figures>
                        {(joules / 1e6).toFixed(3)}
                      </Cell>
                    </Row>
                  ))}
                </tbody>
              </Table>
            </section>
          )}
          <section>
            <GroupTitle>What it rests on</GroupTitle>
            <ul className="list-disc space-y-1 pl-4 text-muted">
              {why.data.assumptions.map(say).map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
            <p className="mt-2 text-muted">Source: {why.data.source}.</p>
          </section>
          <Caution>
            An estimate that supports a decision; it does not certify a brake system.{" "}
            <Link to="/trust" onClick={close} className="underline underline-offset-2">
              How far to trust it
            </Link>
          </Caution>
        </div>
      )}
    </Drawer>
  );
}

/** Where an input is edited: on the machine, or, for the parts of a set that is not on it, in the catalogue. */
export function placeOf(machineId: number, field: string, key?: string | null): string {
  const compound = /^(front|rear)\.pad\.(?!area|thickness|backing)/.test(field);
  const part = /^(front|rear)\.(pad|rotor)\./.test(field);
  if (compound || (part && key)) return "/catalogue";
  if (field.startsWith("environment.")) return `/m/${machineId}/machine?field=environment.altitude_m`;
  return `/m/${machineId}/machine?field=${field}`;
}
