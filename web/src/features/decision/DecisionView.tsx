import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { HeatLadder } from "../../charts/HeatLadder";
import { useUnits } from "../../lib/settings";
import { chance, dateText, eventsText, fieldText } from "../../lib/text";
import { Caution, GroupTitle, StateWord } from "../../ui/basics";
import { Scroll } from "../../ui/Scroll";
import { Cell, Row, RowHead, Table, unseen } from "../../ui/Table";
import { isTrying, noWhatIf, whatIfWords } from "../whatif";

type Set = Schemas["DecidedSet"];
type Props = {
  title: string;
  note: string;
  workshop: string;
  made_at: string;
  fitted: boolean;
  engine: string;
  content: Schemas["DecisionContent"];
  children?: ReactNode;
};

/** A decision as it was shown on its day: the sets, why each stood where it did, and everything it rests on. */
export function DecisionView({ title, note, workshop, made_at, fitted, engine, content, children }: Props) {
  const { say, system, withUnit } = useUnits();
  const tried = { ...noWhatIf, ...content.what_if };
  return (
    <article aria-label={title}>
      <header className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-stage font-semibold leading-tight">{title}</h1>
          <p className="condensed mt-0.5 text-muted">
            {fitted ? "Fitted" : "Shortlist"} · {workshop} · {dateText(made_at)} · engine {engine}
          </p>
        </div>
        <div className="flex flex-wrap gap-2 print:hidden">{children}</div>
      </header>
      <p>
        {content.machine}, {content.duty}: {content.passing} of {content.total} combinations pass
        {content.mixed ? ", compounds mixed front and rear" : ""}. Fluid {content.fluid},{" "}
        {content.fluid_age_months.toFixed(0)} months old, boils at{" "}
        {withUnit(content.boiling_C, "temperature")}.
      </p>
      {note && <p className="mt-2 max-w-prose whitespace-pre-line border-l-2 border-ink pl-3">{note}</p>}
      {isTrying(tried) && (
        <p className="mt-2 text-close">
          ◐ Tried, not how the machine stood: {whatIfWords(tried, content.levers, system).join(", ")}.
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-x-8 gap-y-3">
        <div className="min-w-0">
          <Scroll label="Heat ladder of the sets">
            <HeatLadder
              columns={content.sets.map((s) => ({ ...s, name: s.pads, rejected: s.rejected_for !== null }))}
              fluid={null}
              selected={content.sets.find((s) => s.chosen)?.key ?? null}
              system={system}
            />
            <ol className="flex pl-[56px]" aria-hidden="true">
              {content.sets.map((s) => (
                <li key={s.key} className="w-[150px] shrink-0 truncate px-2.5 font-semibold">
                  {s.pads}
                </li>
              ))}
            </ol>
          </Scroll>
        </div>
        <ol className="min-w-72 flex-1 basis-72 space-y-2" aria-label="Why each stands where it does">
          {content.sets.map((s) => (
            <li key={s.key}>
              <span className="font-semibold">{s.pads}:</span> {say(s.reason)}
            </li>
          ))}
        </ol>
      </div>
      <SetTable content={content} />
      {content.rejected.length > 0 && (
        <section className="mt-5" aria-label="Rejected">
          <GroupTitle>Rejected on every rotor, and why</GroupTitle>
          <ul>
            {content.rejected.map((entry) => (
              <li key={entry.pads} className="border-t border-hairline py-1">
                <span className="font-semibold">{entry.pads}</span>
                <span className="condensed text-muted"> · {entry.rotors}: </span>
                {say(entry.reason)}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Basis content={content} />
      <Caution>
        Estimates that support a decision; they certify nothing. Procedures and torque values are those of the
        vehicle's own manual; whether a part is allowed on the road is a matter of local law; where in doubt
        ask a qualified technician.
      </Caution>
    </article>
  );
}

function SetTable({ content }: { content: Schemas["DecisionContent"] }) {
  const { withUnit } = useUnits();
  const money = (value: number) => `${content.currency}${value.toFixed(0)}`;
  const lines: [string, (set: Set) => ReactNode][] = [
    ["Rotors", (s) => s.set_up || `${s.front_rotor}, ${s.rear_rotor}`],
    [
      "Place",
      (s) =>
        s.rejected_for ? (
          <StateWord state="over">{`out: ${s.rejected_for}`}</StateWord>
        ) : (
          `${s.place} of ${content.passing}, ${s.score.toFixed(0)} points`
        ),
    ],
    [
      "Hottest ring, front / rear",
      (s) => `${withUnit(s.front.peak_C, "temperature")} / ${withUnit(s.rear.peak_C, "temperature")}`,
    ],
    ["To the nearest limit", (s) => withUnit(s.lowest_margin_K, "temperatureChange")],
    ["Likely over a limit", (s) => chance(s.any_probability, content.draws)],
    ["Braking in the window", (s) => `${(100 * s.window_share).toFixed(0)} %`],
    ["Pedal at worst", (s) => withUnit(s.pedal_worst_N, "force")],
    ["Fluid to boil, new pads", (s) => withUnit(s.fluid_margin_K, "temperatureChange")],
    [
      "Fluid to boil, worn pads",
      (s) =>
        typeof s.worn_margin_K === "number" ? withUnit(s.worn_margin_K, "temperatureChange") : "not asked",
    ],
    ["Cold friction", (s) => s.cold_mu.toFixed(2)],
    ["Locks first, dry", (s) => `${s.lock_first}, at ${s.lock_g.toFixed(2)} g`],
    ["Pads last", (s) => eventsText(s.life_events)],
    ["Pads, rotors", (s) => `${money(s.pads_price)}, ${money(s.rotors_price)}`],
    ["Data from", (s) => s.provenance],
  ];
  return (
    <Table
      label="The sets"
      className="mt-3"
      heads={[
        unseen("Figure", "w-44"),
        ...content.sets.map((s) => ({
          key: s.key,
          className: "text-sm font-semibold text-ink",
          text: (
            <>
              {s.pads}
              {s.chosen && <StateWord state="fine"> chosen</StateWord>}
            </>
          ),
        })),
      ]}
    >
      <tbody>
        {lines.map(([name, text]) => (
          <Row key={name}>
            <RowHead className="text-muted">{name}</RowHead>
            {content.sets.map((s) => (
              <Cell tight key={s.key} className="figures">
                {text(s)}
              </Cell>
            ))}
          </Row>
        ))}
      </tbody>
    </Table>
  );
}

function Basis({ content }: { content: Schemas["DecisionContent"] }) {
  const estimates = content.inputs.filter((entry) => entry.estimate).length;
  return (
    <section className="mt-5" aria-label="What it rests on">
      <GroupTitle>What it rests on</GroupTitle>
      <p>
        Weights, 0 to 5:{" "}
        {Object.entries(content.weights)
          .map(([name, value]) => `${name.replaceAll("_", " ")} ${value}`)
          .join(", ")}
        .
      </p>
      <ul className="mt-2 list-disc space-y-0.5 pl-4 text-muted">
        {content.assumptions.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
      <details className="mt-2">
        <summary className="cursor-pointer">
          {content.inputs.length} numbers of the machine, {estimates} of them estimates (SI)
        </summary>
        <ul className="mt-1 columns-1 gap-8 text-xs sm:columns-2 lg:columns-3">
          {content.inputs.map((entry) => (
            <li key={entry.path} className="flex justify-between gap-2 border-b border-hairline">
              <span>
                {fieldText(entry.path)}
                {entry.estimate && <span className="condensed text-muted"> estimate</span>}
              </span>
              <span className="figures">
                {entry.value === null ? "–" : Number(entry.value.toPrecision(4))}
              </span>
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}
