import type { Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { chance, fieldText, roughText } from "../../lib/text";
import { type Quantity, shownRange, unitOf } from "../../lib/units";
import { GroupTitle } from "../../ui/basics";
import { Cell, Row, Table, unseen } from "../../ui/Table";

type Ranges = Schemas["RangesOut"];

const quantities: Record<string, Quantity> = {
  rotor: "temperature",
  pedal: "force",
  fluid: "temperature",
};
const units: Record<string, string> = { window: "%", life: "%" };
/** Which limits belong to which reading; the others have none but their own state. */
const limits: Record<string, string[]> = {
  rotor: ["pad", "rotor"],
  pedal: ["pedal"],
  fluid: ["fluid", "fluid, worn pads"],
};
const limitWords: Record<string, string> = {
  pad: "pads over their limit",
  rotor: "rotor over its limit",
  fluid: "fluid boils",
  "fluid, worn pads": "fluid boils, pads worn to their change",
  pedal: "more pedal force needed than there is",
};

/** The range of one reading, how likely its limits are crossed, and the estimates behind it. */
export function HowSure({ reading, ranges }: { reading: string; ranges: Ranges }) {
  const { system, word } = useUnits();
  const range = ranges.ranges.find((entry) => entry.name === reading);
  if (!range) return null;
  const quantity = quantities[reading];
  const shown = (value: number) =>
    roughText(quantity ? shownRange([value, value], quantity, system)[0] : value);
  const unit = quantity ? unitOf(quantity, system).symbol : (units[reading] ?? "");
  const crossings = ranges.crossings.filter((entry) => limits[reading]?.includes(entry.limit));
  return (
    <section aria-label="How sure">
      <GroupTitle>How sure</GroupTitle>
      <dl className="grid grid-cols-3 border-y border-hairline py-1.5">
        {(
          [
            ["1 in 10 below", range.p10],
            ["middle", range.p50],
            ["1 in 10 above", range.p90],
          ] as const
        ).map(([label, value]) => (
          <div key={label}>
            <dt className="condensed text-xs text-muted">{label}</dt>
            <dd className="figures">
              {shown(value)} <span className="condensed text-muted">{unit}</span>
            </dd>
          </div>
        ))}
      </dl>
      {crossings.length > 0 && (
        <ul className="mt-1.5" aria-label="Chance of crossing a limit">
          {crossings.map((entry) => (
            <li key={entry.limit + entry.axle} className="flex justify-between gap-3">
              <span>
                {entry.axle} {word(limitWords[entry.limit] ?? entry.limit)}
              </span>
              <span className="figures">{chance(entry.probability, ranges.draws)}</span>
            </li>
          ))}
        </ul>
      )}
      <Influences of="the range" shares={range.influences} />
      <p className="mt-1 text-xs text-muted">
        {ranges.draws} runs of the duty with friction ±{Math.round(100 * ranges.friction)} %, cooling σ 0.2,
        wear σ 0.35, mass ±3 % (estimates)
        {ranges.calibrated ? ", cooling narrowed by the readings taken." : "."}
      </p>
    </section>
  );
}

/** Which estimates a spread comes from, greatest first; nothing where nothing spreads. */
export function Influences({ of, shares }: { of: string; shares: Schemas["InfluenceOut"][] }) {
  if (shares.length === 0) return null;
  return (
    <Table
      className="mt-2"
      label={`Share of ${of} each estimate explains`}
      heads={[`Share of ${of} each estimate explains`, unseen("as a bar"), unseen("in %")]}
    >
      <tbody>
        {shares.map((entry) => (
          <Row key={entry.field}>
            <Cell tight>{fieldText(entry.field)}</Cell>
            <Cell tight className="w-28 align-middle">
              <div className="h-2 bg-ink" style={{ width: `${100 * entry.variance_share}%` }} />
            </Cell>
            <Cell tight figures className="w-12">
              {Math.round(100 * entry.variance_share)} %
            </Cell>
          </Row>
        ))}
      </tbody>
    </Table>
  );
}
