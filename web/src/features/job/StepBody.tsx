import { useState } from "react";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { Button, Failure, StateWord } from "../../ui/basics";
import { SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { Strokes } from "./Bleeding";
import { FastenerForm } from "./Fasteners";
import { blockedBy, settled } from "./overlay";
import { readWrench, type Step, useChooseOption } from "./queries";
import { ServiceTool } from "./ServiceTool";
import { useSheet } from "./sheet";
import { cornerText, fastenerOf, toolText, torqueText } from "./words";

/** Everything about one step below its text: what stands in its way, tool and torque, school, readings, words. */
export function StepBody({ step }: { step: Step }) {
  const { job, outbox, open } = useSheet();
  const { say } = useUnits();
  const refusals = useStore(outbox.refusals);
  const fastener = fastenerOf(job, step);
  const blocked = blockedBy(step, job.steps);
  const refused = refusals[step.key];
  const why = refused ?? blocked;
  const tool = toolText(step, fastener);
  const service = step.gate.startsWith("service") && job.service !== null;
  return (
    <div>
      {why && !settled(step) && (
        <p className="mb-3 border-l-4 border-over pl-3" role={refused ? "alert" : undefined}>
          <StateWord state="over">Wait: </StateWord>
          {say(why)}
        </p>
      )}
      {step.caution && job.cautions[step.caution] && (
        <p className="mb-3 border-l-4 border-close-fill pl-3">{job.cautions[step.caution]}</p>
      )}
      {service && open && <ServiceTool />}
      <dl className="mb-3 border-t border-hairline">
        {tool && <Fact name="Tool">{tool}</Fact>}
        {step.uses && <Fact name="Uses">{step.uses}</Fact>}
        {fastener && (
          <Fact name={fastener.label}>
            {fastener.torque_Nm !== null ? (
              <span className="figures font-semibold">{torqueText(fastener.torque_Nm)}</span>
            ) : fastener.words ? (
              fastener.words
            ) : (
              <StateWord state="close">look it up</StateWord>
            )}
          </Fact>
        )}
        {fastener && (fastener.page || fastener.source || fastener.single_use || fastener.left_hand) && (
          <div className="condensed border-b border-hairline py-1 text-muted">
            <dt className="sr-only">By the manual</dt>
            <dd>
              {[
                [fastener.source, fastener.page && `p. ${fastener.page}`].filter(Boolean).join(", "),
                fastener.single_use && "new ones each time",
                fastener.left_hand && "left-hand thread",
                fastener.treatment,
              ]
                .filter(Boolean)
                .join(" · ")}
            </dd>
          </div>
        )}
        {step.check && <Fact name="Check">{step.check}</Fact>}
      </dl>
      {step.tighten && fastener && open && !settled(step) && (
        <>
          {fastener.torque_Nm === null && !fastener.words && <FastenerForm fastener={fastener} begin />}
          {fastener.torque_Nm !== null && <Tighten step={step} />}
        </>
      )}
      {step.school && <School point={step.school} />}
      {open && <Readings step={step} />}
      {open && !settled(step) && <NotDone step={step} />}
      {step.done && step.held && (
        <p className="mb-3 border-l-4 border-over pl-3">
          <StateWord state="over">{say(step.held)}</StateWord>
        </p>
      )}
      {settled(step) && (
        <p className="condensed mt-2 text-muted">
          {step.done ? "Done" : `Not done: ${step.words}`} by {step.by}
          {step.reached_Nm !== null && step.tighten ? `, to ${torqueText(step.reached_Nm)}` : ""}
          {step.rechecked_by && `; checked again by ${step.rechecked_by}`}
        </p>
      )}
    </div>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="flex justify-between gap-4 border-b border-hairline py-1.5">
      <dt>{name}</dt>
      <dd className="text-right">{children}</dd>
    </div>
  );
}

/** To which torque: typed, or sent by the wrench. */
function Tighten({ step }: { step: Step }) {
  const { job, outbox } = useSheet();
  const { system } = useUnits();
  const [torque, setTorque] = useState<number | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const done = (torque_Nm: number | null, source: "hand" | "wrench") =>
    outbox.mark({ key: step.key, kind: "done", torque_Nm, source });
  return (
    <details className="mb-3">
      <summary className="cursor-pointer underline underline-offset-2">Torque reached</summary>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <NumberField
          label="Reached"
          quantity="torque"
          system={system}
          value={torque}
          nullable
          placeholder="as wanted"
          onCommit={setTorque}
        />
        <Button onClick={() => done(torque, "hand")}>Tightened to it</Button>
        <Button
          onClick={async () => {
            setFailed(null);
            try {
              const seed = Math.floor(Math.random() * 2 ** 31);
              const { peak_Nm } = await readWrench(job.id, { key: step.key, story: "good", seed });
              done(peak_Nm, "wrench");
            } catch (error) {
              setFailed(problemText(error));
            }
          }}
        >
          Stand-in wrench
        </Button>
      </div>
      {failed && <Failure text={failed} />}
    </details>
  );
}

/** One school's way with its reason, and the others. */
function School({ point }: { point: string }) {
  const { job, machineId, open } = useSheet();
  const choose = useChooseOption(machineId, job.id);
  const school = job.schools.find((entry) => entry.point === point);
  if (!school) return null;
  const taken = school.options.find((option) => option.option === school.taken);
  return (
    <div className="mb-3">
      <p className="condensed text-muted">
        School: <span className="text-ink">{taken?.label}</span> — {taken?.reason}
      </p>
      {open && (
        <details>
          <summary className="condensed cursor-pointer underline underline-offset-2">The other ways</summary>
          <SelectField
            label={school.label}
            value={school.taken}
            options={school.options.map((option) => [option.option, option.label] as const)}
            onChange={(option) => choose.mutate({ point, option })}
          />
          <ul className="condensed mt-1 list-disc pl-5 text-muted">
            {school.options.map((option) => (
              <li key={option.option}>
                {option.label}: {option.reason}
              </li>
            ))}
          </ul>
        </details>
      )}
      {choose.error && <Failure text={problemText(choose.error)} />}
    </div>
  );
}

/** What is read while a step is done. */
function Readings({ step }: { step: Step }) {
  const { job } = useSheet();
  if (step.id === "bleed_corner") return <Strokes corner={step.corner} />;
  const at = (name: string) => (step.corner ? `${name}.${step.corner}` : name);
  const where = cornerText(job.axle, step.corner);
  const fields: [name: string, label: string, quantity: "percent" | "bore" | "count" | "temperature"][] =
    step.id === "fluid_level"
      ? [["level", "Level, 0 lower mark, 100 full", "percent"]]
      : step.id === "pads_measured"
        ? [
            [`${at("pad")}.inner`, `Inner pad, ${where}`, "bore"],
            [`${at("pad")}.outer`, `Outer pad, ${where}`, "bore"],
            [at("ring"), `Ring, ${where}`, "bore"],
          ]
        : step.id === "park_travel"
          ? [["clicks", "Clicks", "count"]]
          : step.id === "heat_measure"
            ? [[at("ring_C"), `Ring, ${where}`, "temperature"]]
            : [];
  if (fields.length === 0) return null;
  return (
    <div className="mb-3 flex flex-wrap gap-4" data-boxes>
      {fields.map(([name, label, quantity]) => (
        <Reading key={name} name={name} label={label} quantity={quantity} />
      ))}
    </div>
  );
}

type ReadingProps = { name: string; label: string; quantity: "percent" | "bore" | "count" | "temperature" };

function Reading({ name, label, quantity }: ReadingProps) {
  const { job, outbox } = useSheet();
  const { system } = useUnits();
  const value = job.values[name] ?? null;
  return (
    <NumberField
      label={label}
      path={`values.${name}`}
      quantity={quantity}
      system={system}
      value={value}
      nullable
      placeholder="?"
      onCommit={(next) => outbox.value(name, next, value)}
    />
  );
}

/** A step that is not done, with why: it settles the step as a tick does. */
function NotDone({ step }: { step: Step }) {
  const { outbox } = useSheet();
  const [words, setWords] = useState("");
  return (
    <details className="mb-2">
      <summary className="condensed cursor-pointer text-muted underline underline-offset-2">
        {step.gate.startsWith("service") ? "By hand instead, or not done" : "Not done, because…"}
      </summary>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <div className="min-w-56 flex-1">
          <TextField label="In words" value={words} onChange={setWords} />
        </div>
        <Button
          disabled={!words.trim()}
          onClick={() =>
            outbox.mark({
              key: step.key,
              kind: "words",
              words: words.trim(),
            })
          }
        >
          Keep the words
        </Button>
      </div>
    </details>
  );
}
