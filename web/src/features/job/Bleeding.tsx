import { useQueryClient } from "@tanstack/react-query";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { Button, Failure, GroupTitle, StateWord } from "../../ui/basics";
import { SelectField, TextField } from "../../ui/fields";
import { useChangeWords, useMachine } from "../machine/queries";
import { jobKey } from "./queries";
import { useSheet } from "./sheet";
import { cornerText } from "./words";

/** One tap a stroke; the counter says when the reservoir wants filling. */
export function Strokes({ corner }: { corner: string }) {
  const { job, outbox } = useSheet();
  const bled = job.bleeding?.corners.find((entry) => entry.corner === corner);
  if (!bled || !job.bleeding) return null;
  const name = `strokes.${corner}`;
  const count = job.values[name] ?? 0;
  // Counted over all corners: the reservoir does not know which one is open.
  const all = job.bleeding.corners.reduce(
    (sum, entry) => sum + (job.values[`strokes.${entry.corner}`] ?? 0),
    0,
  );
  const refill = job.bleeding.refill_after;
  const since = all % refill;
  const left = all > 0 && since === 0 ? 0 : refill - since;
  const set = (value: number) => outbox.value(name, value, job.values[name] ?? null);
  return (
    <section aria-label="Stroke counter" className="mb-3 border border-ink p-3">
      <div className="flex items-center justify-between gap-3">
        <p>
          <span data-strokes className="figures text-3xl font-bold">
            {count}
          </span>{" "}
          <span className="text-muted">of about {bled.strokes} strokes</span>
        </p>
        <Button onClick={() => set(Math.max(0, count - 1))} disabled={count === 0}>
          One back
        </Button>
      </div>
      <p className="my-2" aria-live="polite">
        {left === 0 ? (
          <StateWord state="over">Refill now: the reservoir is down to a third</StateWord>
        ) : left <= 2 ? (
          <StateWord state="close">{`Refill after ${left} more`}</StateWord>
        ) : (
          <span className="text-muted">refill after {left} more</span>
        )}
      </p>
      <button
        type="button"
        className="min-h-16 w-full bg-ink text-xl font-bold text-chalk"
        onClick={() => set(count + 1)}
      >
        One stroke
      </button>
    </section>
  );
}

/** The order of the corners, their strokes, and what to buy. */
export function BleedingPlan() {
  const { job, open } = useSheet();
  const { withUnit } = useUnits();
  if (!job.bleeding) return null;
  return (
    <section aria-label="Bleeding" className="mb-6">
      <GroupTitle>Bleeding</GroupTitle>
      <ol className="list-decimal pl-5">
        {job.bleeding.corners.map((entry) => (
          <li key={entry.corner}>
            {cornerText("", entry.corner).trim()}: {entry.strokes} strokes,{" "}
            {withUnit(entry.volume_m3, "fluidVolume")} in it
          </li>
        ))}
      </ol>
      <p className="condensed mt-1 text-muted">
        {withUnit(job.bleeding.stroke_m3, "fluidVolume", 1)} a stroke; refill after{" "}
        {job.bleeding.refill_after}; {withUnit(job.bleeding.buy_m3, "fluidVolume")} of fluid to have there.
      </p>
      {open && <Order />}
    </section>
  );
}

/** The maker's order goes first; without it the far side of the driver does. */
function Order() {
  const { job, machineId } = useSheet();
  const machine = useMachine(machineId).data;
  const change = useChangeWords(machineId);
  const queries = useQueryClient();
  const set = (path: string, word: string) =>
    change.mutate(
      { words: { [path]: word }, seen: { [path]: machine?.words[path] ?? "" } },
      { onSuccess: () => queries.invalidateQueries({ queryKey: jobKey(job.id) }) },
    );
  return (
    <details className="mt-1">
      <summary className="condensed cursor-pointer underline underline-offset-2">
        {machine?.words.bleed_order ? "By the maker's order" : "The order is an estimate"}
      </summary>
      <div className="mt-2 grid gap-3">
        <TextField
          label="The maker's order, corners parted by commas"
          path="bleed_order"
          value={machine?.words.bleed_order ?? ""}
          onCommit={(word) => set("bleed_order", word)}
        />
        <SelectField
          label="The driver sits"
          value={machine?.words.driver_side ?? ""}
          options={[
            ["", "not said: on the right"],
            ["right", "on the right"],
            ["left", "on the left"],
          ]}
          onChange={(word) => set("driver_side", word)}
        />
      </div>
      {change.error && <Failure text={problemText(change.error)} />}
    </details>
  );
}
