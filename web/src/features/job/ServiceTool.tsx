import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { useStore } from "../../lib/store";
import { Button, Failure, StateWord } from "../../ui/basics";
import { SelectField } from "../../ui/fields";
import { waitsFor } from "./overlay";
import { jobKey, useAskTool } from "./queries";
import { useSheet } from "./sheet";

type Service = Schemas["ServiceOut"];
type Action = Schemas["ToolAsk"]["action"];

const stateWords: Record<Service["state"], string> = {
  "": "not connected",
  connected: "connected",
  released: "released",
  homing: "driving home…",
  home: "home",
  learned: "learned",
};
/** What is asked next, in each state. */
const nextAction: Record<Service["state"], [Action, string] | null> = {
  "": ["connect", "Connect"],
  connected: ["release", "Release the parking brake"],
  released: ["home", "Drive the pistons home"],
  homing: null,
  home: ["leave", "Leave service mode"],
  learned: null,
};

/** The workshop tool for the electric parking brake, or its stand-in: one button for what comes next. */
export function ServiceTool() {
  const { job, outbox } = useSheet();
  const { say } = useUnits();
  // The server lets the tool work by the ticks it has, not by those that are still on their way.
  const waiting = useStore(outbox.items).length;
  const ask = useAskTool(job.id);
  const queries = useQueryClient();
  const [fault, setFault] = useState<Schemas["ToolAsk"]["fault"]>("");
  const service = job.service;
  const state = service?.state ?? "";
  const left = service?.left_s ?? 0;
  useEffect(() => {
    if (state !== "homing") return;
    // The motors take their time: asked again once they are there.
    const timer = setTimeout(
      () => void queries.invalidateQueries({ queryKey: jobKey(job.id) }),
      Math.max(400, 1000 * left + 200),
    );
    return () => clearTimeout(timer);
  }, [state, left, job.id, queries]);
  if (!service) return null;
  const next = nextAction[state];
  // Nothing rolls, and no piston meets an empty caliper: the tool waits for what the sheet waits for.
  const waited = job.steps.find(
    (step) => step.id === (next?.[0] === "leave" ? "service_learn" : "service_mode"),
  );
  const first = waited && next?.[0] !== "connect" ? waitsFor(waited, job.steps) : null;
  const send = (action: Action) => ask.mutate({ action, fault, seed: Math.floor(Math.random() * 2 ** 31) });
  const answer = ask.isPending ? undefined : ask.data;
  return (
    <section aria-label="Service tool" className="mb-4 border border-ink p-3">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h3 className="font-semibold">Workshop tool</h3>
        <span aria-live="polite" data-service={state}>
          <StateWord state={state === "learned" || state === "home" ? "fine" : "close"}>
            {stateWords[state]}
          </StateWord>
        </span>
      </div>
      {state === "homing" && (
        <div
          role="progressbar"
          aria-label="Pistons on their way"
          aria-valuemin={0}
          aria-valuemax={Math.round(service.took_s)}
          aria-valuenow={Math.round(service.took_s - left)}
          className="my-2 h-2 border border-ink"
        >
          <div
            className="h-full bg-ink"
            style={{ width: `${service.took_s > 0 ? (100 * (service.took_s - left)) / service.took_s : 0}%` }}
          />
        </div>
      )}
      {answer && (
        <p
          className={answer.done ? "condensed" : "border-l-4 border-over pl-2"}
          role={answer.done ? undefined : "alert"}
        >
          {say(answer.text)}
        </p>
      )}
      {ask.error && <Failure text={problemText(ask.error)} />}
      <p className="mt-2 flex flex-wrap gap-2">
        {next && (
          <Button
            primary
            disabled={ask.isPending || first !== null || waiting > 0}
            onClick={() => send(next[0])}
          >
            {next[1]}
          </Button>
        )}
        {next && first && <span className="condensed self-center text-muted">first: {first.text}</span>}
        {next && !first && waiting > 0 && (
          <span className="condensed self-center text-muted">once all that is ticked has arrived</span>
        )}
        {answer && !answer.done && <Button onClick={() => send("connect")}>Connect again</Button>}
      </p>
      <details className="mt-2">
        <summary className="condensed cursor-pointer text-muted">This is a stand-in: try its faults</summary>
        <SelectField
          label="Fault"
          value={fault}
          options={[
            ["", "none"],
            ["low voltage", "low voltage"],
            ["stall", "the motor stalls"],
            ["lost contact", "contact is lost"],
          ]}
          onChange={(word) => setFault(word as Schemas["ToolAsk"]["fault"])}
        />
        <p className="mt-2 flex flex-wrap gap-2">
          <Button onClick={() => send("sensors")}>Read the wear sensors</Button>
          <Button onClick={() => send("reset")}>Reset the message</Button>
        </p>
      </details>
    </section>
  );
}
