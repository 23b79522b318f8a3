import { useState } from "react";
import { problemText } from "../../api/client";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle, StateWord, Working } from "../../ui/basics";
import { Scroll } from "../../ui/Scroll";
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
        <Scroll label="Parts of the set">
          <table className="w-full" aria-label="Parts of the set">
            <thead className="condensed text-left text-xs text-muted">
              <tr className="border-b border-ink">
                <th className="font-normal">Part</th>
                <th className="pr-3 text-right font-normal">how many</th>
                <th className="pr-3 text-right font-normal">catalogue, one</th>
                <th className="pr-3 text-right font-normal">counter, one</th>
                <th className="font-normal">Stock</th>
              </tr>
            </thead>
            <tbody>
              {found.data.lines.map((line) => (
                <tr key={line.kind} className="border-b border-hairline align-top">
                  <td className="py-1.5 pr-3">
                    <span className="font-semibold">{line.name}</span>
                    <span className="condensed block text-xs text-muted">
                      {line.kind}; {line.note}
                    </span>
                  </td>
                  <td className="figures py-1.5 pr-3 text-right">{line.count}</td>
                  <td className="figures py-1.5 pr-3 text-right">{money(line.list_price)}</td>
                  <td className="figures py-1.5 pr-3 text-right">{money(line.price)}</td>
                  <td className="py-1.5">
                    {line.in_stock >= line.count ? (
                      <StateWord state="fine">{`${line.in_stock} there`}</StateWord>
                    ) : (
                      <StateWord state="close">{`${line.in_stock} there, more in ${line.lead_days} days`}</StateWord>
                    )}
                  </td>
                </tr>
              ))}
              <tr className="font-semibold">
                <td className="py-1.5 pr-3">All of it, by {dateText(found.data.ready_on)}</td>
                <td />
                <td className="figures py-1.5 pr-3 text-right">{money(found.data.list_total)}</td>
                <td className="figures py-1.5 pr-3 text-right">{money(found.data.total)}</td>
                <td className="condensed py-1.5 font-normal text-muted">a stand-in's answer</td>
              </tr>
            </tbody>
          </table>
        </Scroll>
      )}
    </section>
  );
}
