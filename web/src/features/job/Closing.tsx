import { useState } from "react";
import { problemText } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { dateText, todayIso } from "../../lib/text";
import { Button, Failure, LinkButton, StateWord } from "../../ui/basics";
import { DateField } from "../../ui/DateField";
import { FormPart } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { useMachine } from "../machine/queries";
import { settled } from "./overlay";
import { type Job, useAbandon, useBolts, useCloseJob } from "./queries";
import { useSheet } from "./sheet";

type Where = "shelf" | "scrap";
const where = [
  ["shelf", "to the shelf"],
  ["scrap", "to scrap"],
] as const;

/** Whether this work takes pads off and puts others on. */
const putsOn = (job: Job) => ["pads", "pads_rotors", "swap"].includes(job.work);

/** The end of a job: what stands against it, what becomes of the old parts, the day; and afterwards what follows. */
export function Closing() {
  const { job } = useSheet();
  if (job.closed_at) return <Closed />;
  if (job.abandoned) return <GivenUp />;
  return <Open />;
}

function Open() {
  const { job, machineId, outbox } = useSheet();
  const { system, say } = useUnits();
  const machine = useMachine(machineId).data;
  const close = useCloseJob(machineId, job.id);
  const abandon = useAbandon(machineId, job.id);
  const waiting = useStore(outbox.items).length;
  const [on, setOn] = useState(todayIso());
  const [km, setKm] = useState<number | null>(null);
  const [pads, setPads] = useState<Where>("shelf");
  const [padsReason, setPadsReason] = useState("");
  const [rotors, setRotors] = useState<Where>("shelf");
  const [rotorsReason, setRotorsReason] = useState("");
  const refused = useRefused(close.error);
  const puts = putsOn(job);
  const blocking = job.steps.filter((step) => step.blocks && !settled(step));
  const again = job.steps.filter((step) => step.tighten && step.done && !step.rechecked_at);
  return (
    <section aria-label="Close the job" className="mt-6 max-w-160 border-t border-ink pt-3">
      <h2 className="mb-2 font-semibold">Close the job</h2>
      {blocking.length > 0 && (
        <p>
          <StateWord state="close">{`${blocking.length} steps that block are open`}</StateWord>
          <span className="text-muted">: {blocking[0]?.text}</span>
        </p>
      )}
      {blocking.length === 0 && again.length > 0 && (
        <p>
          <StateWord state="close">Not checked again</StateWord>
          <span className="text-muted">: {again.map((step) => step.text).join("; ")}</span>{" "}
          <button
            type="button"
            className="underline underline-offset-2"
            onClick={() => {
              for (const step of again) outbox.mark({ key: step.key, kind: "recheck" });
            }}
          >
            All checked again
          </button>
        </p>
      )}
      <FormPart
        refused={refused}
        onSend={() =>
          close.mutate({
            closed: true,
            on,
            odometer_km: km ?? machine?.odometer_km ?? null,
            off: { pads, pads_reason: padsReason, rotors, rotors_reason: rotorsReason },
          })
        }
      >
        {(send) => (
          <>
            <div className="mt-2 flex flex-wrap gap-4">
              <DateField
                label="Done on"
                path="on"
                value={on}
                required
                onChange={(day) => day && setOn(day)}
              />
              <NumberField
                label="Odometer"
                path="odometer_km"
                quantity="distance"
                system={system}
                value={km ?? machine?.odometer_km ?? null}
                onCommit={setKm}
              />
              {puts && (
                <SelectField
                  label="Old pads"
                  value={pads}
                  options={where}
                  onChange={(word) => setPads(word === "scrap" ? "scrap" : "shelf")}
                />
              )}
              {job.work === "pads_rotors" && (
                <SelectField
                  label="Old rotors"
                  value={rotors}
                  options={where}
                  onChange={(word) => setRotors(word === "scrap" ? "scrap" : "shelf")}
                />
              )}
            </div>
            {puts && pads === "scrap" && (
              <TextField
                label="Why the pads are scrap"
                path="off.pads_reason"
                value={padsReason}
                onChange={setPadsReason}
              />
            )}
            {rotors === "scrap" && (
              <TextField
                label="Why the rotors are scrap"
                path="off.rotors_reason"
                value={rotorsReason}
                onChange={setRotorsReason}
              />
            )}
            {puts && pads === "shelf" && (
              <p className="condensed mt-1 text-muted">
                Label them by wheel, inner or outer: what was read of them goes to the shelf with them.
              </p>
            )}
            <p className="mt-3 flex flex-wrap gap-3">
              <Button
                primary
                disabled={close.isPending || waiting > 0 || blocking.length > 0 || again.length > 0}
                onClick={send}
              >
                Close the job
              </Button>
              <Button disabled={abandon.isPending} onClick={() => abandon.mutate({ abandoned: true })}>
                Give it up
              </Button>
            </p>
          </>
        )}
      </FormPart>
      {job.steps.some((step) => step.done && step.held) && (
        <p>
          <StateWord state="over">A torque was changed after it was tightened: see its step</StateWord>
        </p>
      )}
      {waiting > 0 && <p className="condensed text-muted">It is closed once everything has arrived.</p>}
      {job.against.length > 0 && blocking.length === 0 && again.length === 0 && waiting === 0 && (
        <p className="text-muted">{job.against.map(say).join("; ")}</p>
      )}
      {abandon.error && <Failure text={problemText(abandon.error)} />}
    </section>
  );
}

function Closed() {
  const { job, machineId } = useSheet();
  const { withUnit } = useUnits();
  const close = useCloseJob(machineId, job.id);
  const bolts = useBolts(machineId, job.id);
  const puts = putsOn(job);
  return (
    <section aria-label="Closed" className="mt-6 max-w-160 border-t border-ink pt-3">
      <h2 className="mb-1 font-semibold">Closed {dateText(job.closed_on)}</h2>
      <p>
        At {withUnit(job.closed_km ?? 0, "distance")}.{" "}
        {puts && `Old pads went to ${job.off.pads === "scrap" ? "scrap" : "the shelf"}.`}
      </p>
      <ul className="mt-2">
        {job.bolts_due_km !== null && (
          <li className="flex flex-wrap items-center gap-3 py-1">
            {job.bolts_done ? (
              <StateWord state="fine">Wheel bolts were tightened once more</StateWord>
            ) : (
              <>
                <StateWord state="close">{`Wheel bolts once more at ${withUnit(job.bolts_due_km, "distance")}`}</StateWord>
                <Button small onClick={() => bolts.mutate({ done: true })}>
                  Done
                </Button>
              </>
            )}
          </li>
        )}
        {puts && (
          <li className="flex flex-wrap items-center gap-3 py-1">
            Bed the pads in next. <LinkButton to={`/m/${machineId}/bed`}>Plan the bedding</LinkButton>
          </li>
        )}
      </ul>
      <p className="mt-2">
        <Button
          disabled={close.isPending}
          onClick={() =>
            close.mutate({
              closed: false,
              on: null,
              odometer_km: null,
              off: { pads: "shelf", pads_reason: "", rotors: "shelf", rotors_reason: "" },
            })
          }
        >
          Reopen it
        </Button>
      </p>
      {close.error && <Failure text={problemText(close.error)} />}
      {bolts.error && <Failure text={problemText(bolts.error)} />}
    </section>
  );
}

function GivenUp() {
  const { job, machineId } = useSheet();
  const abandon = useAbandon(machineId, job.id);
  return (
    <section aria-label="Given up" className="mt-6 border-t border-ink pt-3">
      <p>This job was given up: nothing of the machine changed.</p>
      <p className="mt-2">
        <Button onClick={() => abandon.mutate({ abandoned: false })}>Take it up again</Button>
      </p>
      {abandon.error && <Failure text={problemText(abandon.error)} />}
    </section>
  );
}
