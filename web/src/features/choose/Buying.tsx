import { useState } from "react";
import { problemText } from "../../api/client";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle, StateWord, Working } from "../../ui/basics";
import { Cell, Row, right, Table } from "../../ui/Table";
import { useSession } from "../session/queries";
import type { Candidate } from "./candidates";
import { usePartsOffer } from "./queries";

type Props = { machineId: number; candidate: Candidate; mixed: boolean };

/** The chosen set at the parts counter: prices, stock, lead time, and which parts have a left and a right. */
export function Buying({ machineId, candidate, mixed }: Props) {
  const [asked, setAsked] = useState(false);
  const currency = useSession().data?.currency ?? "";
  const found = usePartsOffer(machineId, candidate.key, mixed, asked);
  const money = (value: number) => `${currency}${value.toFixed(2)}`;
  return (
    <section
      aria-label="At the parts counter"
      className="mt-6 border-t border-ink pt-3"
      aria-busy={found.isFetching}
    >
      <GroupTitle>{candidate.pads} at the parts counter</GroupTitle>
      {!asked && (
        <p className="flex flex-wrap items-center gap-3">
          <Button onClick={() => setAsked(true)}>Ask for price, stock and lead time</Button>
          <span className="text-muted">A stand-in answers: no shop is connected.</span>
        </p>
      )}
      {asked && found.isPending && <Working>Asking the counter…</Working>}
      {found.error && <Failure text={problemText(found.error)} retry={() => found.refetch()} />}
      {found.data && (
        <Table
          label="Parts of the set"
          heads={["Part", right("how many"), right("catalogue, one"), right("counter, one"), "Stock"]}
        >
          <tbody>
            {found.data.lines.map((line) => (
              <Row key={line.kind}>
                <Cell>
                  <span className="font-semibold">{line.name}</span>
                  <span className="condensed block text-xs text-muted">
                    {line.kind}; {line.note}
                  </span>
                </Cell>
                <Cell figures>{line.count}</Cell>
                <Cell figures>{money(line.list_price)}</Cell>
                <Cell figures>{money(line.price)}</Cell>
                <Cell>
                  {line.in_stock >= line.count ? (
                    <StateWord state="fine">{`${line.in_stock} there`}</StateWord>
                  ) : (
                    <StateWord state="close">{`${line.in_stock} there, more in ${line.lead_days} days`}</StateWord>
                  )}
                </Cell>
              </Row>
            ))}
            <Row className="font-semibold">
              <Cell>All of it, by {dateText(found.data.ready_on)}</Cell>
              <Cell />
              <Cell figures>{money(found.data.list_total)}</Cell>
              <Cell figures>{money(found.data.total)}</Cell>
              <Cell className="condensed font-normal text-muted">a stand-in's answer</Cell>
            </Row>
          </tbody>
        </Table>
      )}
    </section>
  );
}
