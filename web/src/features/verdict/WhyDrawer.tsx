import { problemText, type Schemas } from "../../api/client";
import { useWhy } from "../../api/queries";
import { fieldText, twoFiguresText } from "../../lib/text";
import { Caution, Failure, GroupTitle, Working } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { HowSure } from "./HowSure";

type Ranges = Schemas["RangesOut"];
type Props = { machineId: number; reading: string | null; ranges: Ranges | undefined; onClose: () => void };

/** Opens one number: its formula with this machine's values, its inputs, which are estimates, how far each moves it. */
export function WhyDrawer({ machineId, reading, ranges, onClose }: Props) {
  const why = useWhy(machineId, reading);
  return (
    <Drawer open={reading !== null} onClose={onClose} title={why.data?.title ?? "Why"}>
      {why.isPending && <Working>Solving the duty again with each input 10 % off…</Working>}
      {why.error && <Failure text={problemText(why.error)} retry={() => why.refetch()} />}
      {why.data && (
        <div className="space-y-4">
          <p className="figures border-l-2 border-ink pl-3 text-sm">{why.data.formula}</p>
          <p className="figures text-sm">{why.data.numbers}</p>
          {ranges && reading && <HowSure reading={reading} ranges={ranges} />}
          <section>
            <GroupTitle>If an input is 10 % greater</GroupTitle>
            <table className="w-full">
              <thead className="condensed text-left text-xs text-muted">
                <tr>
                  <th className="font-normal">Input</th>
                  <th className="text-right font-normal">value, SI</th>
                  <th className="text-right font-normal">change, {why.data.unit}</th>
                </tr>
              </thead>
              <tbody>
                {why.data.inputs.map((input) => (
                  <tr key={input.field} className="border-t border-hairline">
                    <td className="py-1">
                      {fieldText(input.field)}
                      {input.estimate && (
                        <span className="condensed ml-1 border border-hairline px-1 text-xs">estimate</span>
                      )}
                    </td>
                    <td className="figures text-right">{Number(input.value.toPrecision(4))}</td>
                    <td className="figures text-right">{twoFiguresText(input.change)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <section>
            <GroupTitle>Where the energy went, MJ</GroupTitle>
            <table className="w-full">
              <tbody>
                {Object.entries(why.data.energy).map(([name, joules]) => (
                  <tr key={name} className="border-t border-hairline">
                    <td className="py-0.5">{name}</td>
                    <td className="figures text-right">{(joules / 1e6).toFixed(3)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <section>
            <GroupTitle>What it rests on</GroupTitle>
            <ul className="list-disc space-y-1 pl-4 text-muted">
              {why.data.assumptions.map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
            <p className="mt-2 text-muted">Source: {why.data.source}.</p>
          </section>
          <Caution>An estimate that supports a decision; it does not certify a brake system.</Caution>
        </div>
      )}
    </Drawer>
  );
}
