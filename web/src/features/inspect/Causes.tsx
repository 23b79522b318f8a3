import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Failure, GroupTitle } from "../../ui/basics";
import { useSymptoms } from "./queries";
import { useCell, useSheet } from "./sheet";
import { shareText } from "./words";

const kinds: [string, string][] = [
  ["felt", "Felt"],
  ["heard", "Heard"],
  ["seen", "Seen"],
  ["when", "When"],
];

/** What the driver noticed, and the causes that explain it together with what was found. */
export function Causes() {
  const { inspection, open, outbox } = useSheet();
  const { word } = useUnits();
  const symptoms = useSymptoms();
  const said = inspection.seen.filter((seen) => !seen.evidence.startsWith("found_"));
  const found = inspection.seen.filter((seen) => seen.evidence.startsWith("found_"));
  const add = (evidence: string) =>
    outbox.put(`said.${evidence}`, { value: true, confirmed: false, source: "hand", state: "waiting" });
  return (
    <section aria-label="Symptoms and causes" className="mt-6">
      <GroupTitle>What did the driver notice?</GroupTitle>
      {said.length > 0 && (
        <ul className="mb-2">
          {said.map((seen) => (
            <Said
              key={seen.evidence}
              evidence={seen.evidence}
              text={seen.text}
              where={symptoms.data?.find((row) => row.evidence === seen.evidence)?.where ?? ""}
            />
          ))}
        </ul>
      )}
      {open && (
        <select
          aria-label="Add a symptom"
          className="h-9 w-full rounded-xs border border-ink bg-paper px-2 max-md:h-11"
          value=""
          onChange={(event) => event.target.value && add(event.target.value)}
        >
          <option value="">Add a symptom…</option>
          {kinds.map(([kind, label]) => (
            <optgroup key={kind} label={label}>
              {(symptoms.data ?? [])
                .filter((row) => row.kind === kind && !said.some((seen) => seen.evidence === row.evidence))
                .map((row) => (
                  <option key={row.evidence} value={row.evidence}>
                    {word(row.text)}
                  </option>
                ))}
            </optgroup>
          ))}
        </select>
      )}
      {symptoms.error && <Failure text={problemText(symptoms.error)} retry={() => symptoms.refetch()} />}
      {found.length > 0 && (
        <p className="condensed mt-2 text-muted">
          Counted from the sheet:{" "}
          {found.map((seen) => (seen.place ? `${seen.text} (${seen.place})` : seen.text)).join("; ")}.
        </p>
      )}
      {inspection.seen.length > 0 && inspection.causes.length === 0 && (
        <p className="mt-2">Nothing noticed or found so far speaks for a cause: it only rules some out.</p>
      )}
      {inspection.causes.length > 0 && (
        <>
          <h3 className="mt-3 font-semibold">Likely causes</h3>
          <ol>
            {inspection.causes.map((cause) => (
              <CauseRow key={cause.name} cause={cause} />
            ))}
          </ol>
          <p className="border-t border-ink pt-2">
            <span className="font-semibold">What tells most now: </span>
            {inspection.next_check
              ? `${word(inspection.next_check)}.`
              : "every check the sheet has for these is answered: put right what was found, then drive it again."}
          </p>
          <p className="condensed mt-1 text-xs text-muted">
            Only causes that something speaks for are listed. Shares weigh all causes against each other by a
            table of practice, not by statistics; what is left to 100 % is something else.
          </p>
        </>
      )}
    </section>
  );
}

type SaidProps = { evidence: string; text: string; where: Schemas["SymptomOut"]["where"] };

function Said({ evidence, text, where }: SaidProps) {
  const { inspection, open } = useSheet();
  const place = useCell(`where.${evidence}`);
  const { word } = useUnits();
  const places =
    where === "side"
      ? [["left", "to the left"] as const, ["right", "to the right"] as const]
      : inspection.wheels.map((wheel) => [wheel.name, wheel.label.toLowerCase()] as const);
  const cell = useCell(`said.${evidence}`);
  return (
    <li className="flex items-baseline justify-between gap-2 border-t border-hairline py-0.5">
      <span>
        {word(text)}
        {where && (
          <select
            aria-label={`${where === "side" ? "Which side" : "Which wheel"}: ${text}`}
            className="ml-2 h-8 max-w-full rounded-xs border border-ink bg-paper px-1 disabled:border-hairline max-md:h-11"
            disabled={!open}
            value={typeof place.value === "string" ? place.value : ""}
            onChange={(event) => place.set(event.target.value || null)}
          >
            <option value="">{where === "side" ? "which side?" : "which wheel?"}</option>
            {places.map(([name, label]) => (
              <option key={name} value={name}>
                {label}
              </option>
            ))}
          </select>
        )}
      </span>
      {open && (
        <button
          type="button"
          className="condensed min-h-6 text-xs underline underline-offset-2"
          onClick={() => cell.set(null)}
        >
          Take out<span className="sr-only">: {text}</span>
        </button>
      )}
    </li>
  );
}

function CauseRow({ cause }: { cause: ReturnType<typeof useSheet>["inspection"]["causes"][number] }) {
  const { word } = useUnits();
  const percent = Math.round(100 * cause.share);
  return (
    <li data-cause={cause.name} className="border-t border-hairline py-1.5">
      <div className="flex items-baseline justify-between gap-2">
        <span className="font-semibold">
          {word(cause.text)}
          {cause.place !== "brakes" && <span className="condensed font-normal"> – not the brakes</span>}
        </span>
        <span className="figures whitespace-nowrap">{shareText(cause.share)}</span>
      </div>
      <div aria-hidden="true" className="h-1 bg-muted" style={{ width: `${percent}%` }} />
      {cause.reasons.length > 0 && (
        <p className="condensed text-xs text-muted">
          {cause.reasons
            .map((reason) => `${reason.weight > 0 ? "for" : "against"} it: ${word(reason.text)}`)
            .join("; ")}
        </p>
      )}
      <p className="condensed text-xs">Check: {word(cause.check)}</p>
    </li>
  );
}
