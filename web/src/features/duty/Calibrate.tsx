import { problemText, type Schemas } from "../../api/client";
import { useProgress } from "../../api/work";
import { FitLadder } from "../../charts/FitLadder";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { dateText } from "../../lib/text";
import { Button, Failure, GroupTitle, StateWord, Working } from "../../ui/basics";
import { Progress } from "../../ui/Progress";
import { Cell, Row, right, Table, unseen } from "../../ui/Table";
import { EvidenceForm } from "./EvidenceForm";
import { contradicted, draftStore, type Entry, entryText, fitText, kindText, setDraft } from "./evidence";
import { useCalibrate, useCalibrations, useRemoveCalibration, useRunTemperatures } from "./queries";

/** Measured temperatures: they fit the model to this machine, and the fit is used everywhere until it is removed. */
export function Calibrate({ machineId, runId }: { machineId: number; runId: number | null }) {
  const { system } = useUnits();
  const draft = useStore(draftStore)[machineId] ?? [];
  const calibrate = useCalibrate(machineId);
  const progress = useProgress("calibrate");
  const change = (entries: typeof draft) => {
    setDraft(machineId, entries);
    calibrate.reset();
  };
  const tried = calibrate.data && calibrate.data.id === null ? calibrate.data : null;
  const wrong = tried?.residuals.filter((row) => row.suspect).length ?? 0;
  return (
    <section aria-label="Measured temperatures">
      <GroupTitle>Measured temperatures</GroupTitle>
      <p className="mb-2 max-w-prose text-muted">
        How well the brakes are cooled is the greatest guess in every number here. A pyrometer on the ring
        after this very duty, temperature paint at its edge, or a logged thermocouple narrows it. What decides
        the fluid is how much heat the plates pass on: a strip or a reading on the caliper, by the pistons,
        narrows that.
      </p>
      <InUse machineId={machineId} />
      {draft.length > 0 && (
        <ul className="mb-3" aria-label="Readings entered">
          {draft.map((entry, index) => (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: two equal readings are two readings
              key={index}
              className="flex items-baseline justify-between gap-3 border-t border-hairline py-1"
            >
              <span>{entryText(entry, system)}</span>
              <button
                type="button"
                className="condensed underline underline-offset-2"
                onClick={() => change(draft.filter((_, other) => other !== index))}
              >
                Take out
              </button>
            </li>
          ))}
        </ul>
      )}
      <FromRun runId={runId} taken={draft} onAdd={(entries) => change([...draft, ...entries])} />
      <EvidenceForm onAdd={(entry) => change([...draft, entry])} />
      {draft.length > 0 && (
        <div className="mt-3 flex gap-2">
          <Button
            primary={!tried}
            disabled={calibrate.isPending}
            onClick={() => calibrate.mutate({ evidence: draft, keep: false })}
          >
            Try the fit
          </Button>
          {tried && !wrong && (
            <Button
              primary
              disabled={calibrate.isPending}
              onClick={() =>
                calibrate.mutate(
                  { evidence: draft, keep: true },
                  { onSuccess: () => setDraft(machineId, []) },
                )
              }
            >
              Use this fit
            </Button>
          )}
        </div>
      )}
      {wrong > 0 && (
        <p className="mt-2">
          <StateWord state="over">
            {wrong === 1 ? "One reading does not fit." : `${wrong} readings do not fit.`}
          </StateWord>{" "}
          Read again, correct or take out what is marked below, then try the fit again; such a fit is not
          used.
        </p>
      )}
      {calibrate.isPending &&
        (progress ? (
          <Progress {...progress} onStop={calibrate.stop} />
        ) : (
          <Working>Fitting cooling and conductance…</Working>
        ))}
      {calibrate.error && !(calibrate.error instanceof DOMException) && (
        <Failure text={problemText(calibrate.error)} />
      )}
      {tried && <Fit fit={tried} />}
    </section>
  );
}

type FromRunProps = { runId: number | null; taken: Entry[]; onAdd: (entries: Entry[]) => void };

/** Temperatures that were recorded with the run in force, ready to be used. */
function FromRun({ runId, taken, onAdd }: FromRunProps) {
  const logs = Object.entries(useRunTemperatures(runId).data ?? {}).filter(
    ([axle, csv]) =>
      !taken.some((entry) => entry.kind === "logged" && entry.axle === axle && entry.csv === csv),
  );
  if (logs.length === 0) return null;
  return (
    <Button
      className="mb-3"
      onClick={() =>
        onAdd(logs.map(([axle, csv]) => ({ kind: "logged", axle: axle === "rear" ? "rear" : "front", csv })))
      }
    >
      Add the temperatures recorded with this run
    </Button>
  );
}

function InUse({ machineId }: { machineId: number }) {
  const rows = useCalibrations(machineId);
  const remove = useRemoveCalibration(machineId);
  if (rows.error) return <Failure text={problemText(rows.error)} retry={() => rows.refetch()} />;
  const used = rows.data?.find((row) => !row.removed);
  const last = rows.data?.[0];
  const row = used ?? last;
  if (!row || row.id === null) return null;
  const { id } = row;
  return (
    <div className="mb-3 border-l-2 border-ink pl-3" data-calibration={used ? "used" : "removed"}>
      <p>
        {used ? <StateWord state="fine">In use</StateWord> : <span className="text-muted">Not in use</span>}
        {`: ${[fitText("front", row.front, contradicted(row, "front")), fitText("rear", row.rear, contradicted(row, "rear"))].filter(Boolean).join("; ")}.`}
      </p>
      <p className="condensed text-xs text-muted">
        from {row.residuals.length} readings on {row.duty}, {dateText(row.made_at)}{" "}
        <button
          type="button"
          className="underline underline-offset-2"
          disabled={remove.isPending}
          onClick={() => remove.mutate({ row: id, removed: used !== undefined })}
        >
          {used ? "Stop using it" : "Use it again"}
        </button>
      </p>
      {remove.error && <Failure text={problemText(remove.error)} />}
    </div>
  );
}

function Fit({ fit }: { fit: Schemas["CalibrationOut"] }) {
  const units = useUnits();
  const degrees = (value: number) => units.figure(value, "temperature");
  return (
    <div className="mt-3" data-fit>
      {(["front", "rear"] as const).map((axle) => {
        const text = fitText(axle === "front" ? "Front" : "Rear", fit[axle], contradicted(fit, axle));
        return text && <p key={axle} className="font-semibold">{`${text}.`}</p>;
      })}
      <FitLadder readings={fit.residuals} system={units.system} />
      <Table
        className="mt-1"
        caption="Each reading against the model, before and after the fit"
        heads={[
          `Reading, ${units.symbol("temperature")}`,
          right("measured"),
          right("before"),
          right("fitted"),
          unseen("State", "w-24"),
        ]}
      >
        <tbody>
          {fit.residuals.map((row, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows keep the order of the readings
            <Row key={index}>
              <Cell tight>
                {row.axle}
                {row.part === "caliper" && " caliper"}, {kindText(row.kind)}
              </Cell>
              <Cell tight figures>
                {degrees(row.measured_C)}
              </Cell>
              <Cell tight figures>
                {degrees(row.before_C)}
              </Cell>
              <Cell tight figures>
                {degrees(row.after_C)}
              </Cell>
              <Cell tight className="text-right">
                <StateWord state={row.suspect ? "over" : "fine"}>
                  {row.suspect ? "does not fit" : "fits"}
                </StateWord>
              </Cell>
            </Row>
          ))}
        </tbody>
      </Table>
    </div>
  );
}
