import { useState } from "react";
import { problemText } from "../../api/client";
import { RingLook } from "../../charts/RingLook";
import { useUnits } from "../../lib/settings";
import { dateText, todayIso } from "../../lib/text";
import { Button, Failure, GroupTitle, LinkButton, type State, StateWord, Working } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { SelectField } from "../../ui/fields";
import {
  type BedState,
  useKeepProof,
  useLookAtRing,
  useProve,
  useRecordedRuns,
  useRemoveResult,
} from "./queries";

type Props = { machineId: number; state: BedState };
export const wordStates: Record<string, State> = {
  begun: "close",
  partly: "close",
  bedded: "fine",
  overheated: "over",
};
const sources: Record<string, string> = {
  run: "driven with the card",
  log: "from a recorded drive",
  ring: "the look of the ring",
  hand: "ticked off",
};

/** Did it work: from a recorded drive, from the look of the ring, and everything that was said so far. */
export function Worked({ machineId, state }: Props) {
  return (
    <section aria-label="Did it work" className="mt-8 border-t border-ink pt-3 print:hidden">
      <h2 className="mb-2 text-base font-semibold">Did it work?</h2>
      <div className="grid grid-cols-1 gap-x-8 gap-y-6 bay:grid-cols-1! lg:grid-cols-[minmax(0,1fr)_20rem]">
        <Looks machineId={machineId} state={state} />
        <div>
          <FromLog machineId={machineId} />
          <Results machineId={machineId} state={state} />
        </div>
      </div>
    </section>
  );
}

/** What a ring shows, drawn; picked, it says what it means and what to do. */
function Looks({ machineId, state }: Props) {
  const [axle, setAxle] = useState<"front" | "rear">("front");
  const [picked, pick] = useState<string | null>(null);
  const [on, setOn] = useState(todayIso());
  const keep = useLookAtRing(machineId);
  const look = state.looks.find((one) => one.look === picked);
  return (
    <section aria-label="The look of the ring" className="min-w-0">
      <GroupTitle>What does the ring show?</GroupTitle>
      <ul className="grid gap-2 grid-cols-[repeat(auto-fill,minmax(9.5rem,1fr))]">
        {state.looks.map((one) => (
          <li key={one.look}>
            <button
              type="button"
              data-look={one.look}
              aria-pressed={picked === one.look}
              className="flex h-full w-full flex-col items-start gap-1 border border-hairline p-2 text-left aria-pressed:border-ink aria-pressed:bg-paper"
              onClick={() => pick(picked === one.look ? null : one.look)}
            >
              <RingLook look={one.look} />
              <span className="font-semibold leading-tight">{one.label}</span>
              <span className="condensed text-xs leading-tight text-muted">{one.shows}</span>
            </button>
          </li>
        ))}
      </ul>
      {look && (
        <div className="mt-3 max-w-prose border-l-2 border-ink pl-3" data-look-means>
          <p>
            <StateWord state={wordStates[look.verdict] ?? "close"}>{look.label}</StateWord>: {look.means}.
          </p>
          <p>
            <span className="font-semibold">Do:</span> {look.do}.
          </p>
          {look.stop && (
            <p>
              <span className="font-semibold text-over">Stop driving</span> {look.stop}.
            </p>
          )}
          <div className="mt-2 flex flex-wrap items-end gap-3">
            <SelectField
              label="Which rings"
              value={axle}
              options={[
                ["front", "front"],
                ["rear", "rear"],
              ]}
              onChange={(word) => setAxle(word === "rear" ? "rear" : "front")}
            />
            <DateField label="Seen on" path="on" value={on} required onChange={(day) => day && setOn(day)} />
            <Button
              primary
              disabled={keep.isPending}
              onClick={() => keep.mutate({ axle, look: look.look, on }, { onSuccess: () => pick(null) })}
            >
              Write it down
            </Button>
          </div>
          {keep.error && <Failure text={problemText(keep.error)} />}
        </div>
      )}
    </section>
  );
}

function FromLog({ machineId }: { machineId: number }) {
  const { say } = useUnits();
  const runs = useRecordedRuns();
  const [run, setRun] = useState<number | null>(null);
  const [on, setOn] = useState(todayIso());
  const proof = useProve(machineId, run);
  const keep = useKeepProof(machineId);
  const options = (runs.data ?? []).map((row) => [String(row.id), row.name] as const);
  return (
    <section aria-label="From a recorded drive">
      <GroupTitle>From a recorded drive</GroupTitle>
      {options.length === 0 ? (
        <p className="text-muted">
          A logger's file of the bedding drive says what the rings reached. Read it in under Duty, then pick
          it here.
        </p>
      ) : (
        <SelectField
          label="The drive"
          value={run === null ? "" : String(run)}
          options={[["", "pick a recorded run"] as const, ...options]}
          onChange={(value) => setRun(value ? Number(value) : null)}
        />
      )}
      <p className="mt-1">
        <LinkButton to={`/m/${machineId}/duty`}>Read a file in, under Duty</LinkButton>
      </p>
      {run !== null && proof.isPending && <Working>Driving the recorded run…</Working>}
      {proof.error && <Failure text={problemText(proof.error)} />}
      {run !== null && proof.data && (
        <div className="mt-2" data-proof={proof.data.word}>
          <p>
            <StateWord state={wordStates[proof.data.word] ?? "close"}>{say(proof.data.text)}</StateWord>
          </p>
          <p className="condensed text-muted">
            {proof.data.sure
              ? "Sure: cooling off by its spread would not change it."
              : "Near the edge: with cooling off by its spread it would be called otherwise. Look at the ring too."}
          </p>
          <div className="mt-2 flex flex-wrap items-end gap-3">
            <DateField
              label="Driven on"
              path="on"
              value={on}
              required
              onChange={(day) => day && setOn(day)}
            />
            <Button
              primary
              disabled={keep.isPending}
              onClick={() => keep.mutate({ run_id: run, on }, { onSuccess: () => setRun(null) })}
            >
              Keep as this set's bedding
            </Button>
          </div>
        </div>
      )}
      {keep.error && <Failure text={problemText(keep.error)} />}
    </section>
  );
}

function Results({ machineId, state }: Props) {
  const { say, withUnit } = useUnits();
  const remove = useRemoveResult(machineId);
  const gone = remove.variables?.removed ? remove.variables.row : null;
  return (
    <section aria-label="What was said" className="mt-6">
      <GroupTitle>What was said so far</GroupTitle>
      {state.results.length === 0 && <p className="text-muted">Nothing yet of the pads that are on.</p>}
      <ul>
        {state.results.map((row) => (
          <li key={row.id} className="border-t border-hairline py-1.5" data-result={row.word}>
            <StateWord state={wordStates[row.word] ?? "close"}>
              {row.axle}: {row.word}
            </StateWord>{" "}
            <span className="condensed text-muted">
              {dateText(row.on)}, {sources[row.source]}
              {row.wear_m >= 5e-6 && `, took ${withUnit(row.wear_m, "reading")} off the pads`}
            </span>
            {row.text && <span className="condensed block">{say(row.text)}</span>}
            <button
              type="button"
              className="min-h-6 underline underline-offset-2"
              onClick={() => remove.mutate({ row: row.id, removed: true })}
            >
              Take out
              <span className="sr-only">
                : {row.axle} {row.word}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {gone !== null && (
        <p className="mt-1 flex items-center gap-3">
          It is out of the list.
          <Button onClick={() => remove.mutate({ row: gone, removed: false })}>Undo</Button>
        </p>
      )}
      {remove.error && <Failure text={problemText(remove.error)} />}
    </section>
  );
}
