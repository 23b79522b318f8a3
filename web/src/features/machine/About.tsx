import { useState } from "react";
import { useNavigate } from "react-router";
import { ProblemError, problemText, type Schemas } from "../../api/client";
import { useHand } from "../../lib/hand";
import { useSeen } from "../../lib/seen";
import { Button, Failure, GroupTitle } from "../../ui/basics";
import { CheckField, SelectField, TextField } from "../../ui/fields";
import { useMachines } from "../workshop/queries";
import { useChangeWords, useClasses, useCopyMachine, useFluids, useRemoveMachine } from "./queries";

const driven = [
  ["front", "front wheels"],
  ["rear", "rear wheels"],
  ["both", "all wheels"],
] as const;
const regen = [
  ["", "does not brake"],
  ["front", "brakes the front"],
  ["rear", "brakes the rear"],
] as const;

const antiLock = [
  ["yes", "fitted and working"],
  ["no", "none: one axle locks first"],
] as const;

/** Names, owner, class and everything else about a machine that is a word and not a number. */
export function About({ machine }: { machine: Schemas["MachineOut"] }) {
  const change = useChangeWords(machine.id);
  const classes = useClasses();
  const fluids = useFluids();
  const owners = [...new Set((useMachines().data ?? []).map((row) => row.owner))];
  const refused = change.error instanceof ProblemError ? change.error.problem.fields : [];
  const saying = (path: string) => refused.find((entry) => entry.field === path)?.allowed;
  const [held, hold] = useHand<Record<string, string>>();
  const word = useSeen((path) => wordsOf(machine)[path] ?? "");
  const set = (path: string) => (value: string) => {
    const words = { [path]: value };
    const [seen, then] = word(path, value);
    hold(words, change.mutateAsync({ words, seen }, then));
  };
  const ofKind = (classes.data ?? []).filter((entry) => entry.kind === machine.kind);
  return (
    <fieldset className="border-t border-ink pt-2">
      <legend className="sr-only">About it</legend>
      <GroupTitle>About it</GroupTitle>
      <div className="grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-3 2xl:grid-cols-4">
        <TextField label="Name" value={machine.name} refused={saying("name")} onCommit={set("name")} />
        <TextField
          label="Owner"
          value={machine.owner}
          refused={saying("owner")}
          suggestions={owners}
          onCommit={set("owner")}
        />
        <TextField label="Note" value={machine.note} refused={saying("note")} onCommit={set("note")} />
        <SelectField
          label="Class, for what is not known"
          value={held?.vehicle_class ?? machine.vehicle_class}
          options={[
            ...(machine.vehicle_class ? [] : [["", "not chosen"] as const]),
            ...ofKind.map((entry) => [entry.name, entry.label] as const),
          ]}
          onChange={set("vehicle_class")}
        />
        <SelectField
          label="Driven"
          value={held?.driven ?? machine.driven}
          options={driven}
          onChange={set("driven")}
        />
        <SelectField
          label="Brake fluid"
          value={held?.fluid ?? machine.fluid}
          options={(fluids.data ?? []).map((row) => [row.name, `${row.name}, ${row.standard}`] as const)}
          onChange={set("fluid")}
        />
        {machine.kind !== "motorcycle" && (
          <>
            <SelectField
              label="Electric motor"
              value={held?.regen ?? machine.regen_axle}
              options={regen}
              onChange={set("regen")}
            />
            <SelectField
              label={
                machine.estimates.includes("vehicle.anti_lock")
                  ? "Anti-lock brakes (estimate)"
                  : "Anti-lock brakes"
              }
              value={held?.anti_lock ?? (machine.anti_lock ? "yes" : "no")}
              options={antiLock}
              onChange={set("anti_lock")}
            />
            <div className="self-end pb-1">
              <CheckField
                checked={held?.trailer ? held.trailer === "yes" : machine.towing}
                onChange={(on) => set("trailer")(on ? "yes" : "no")}
              >
                Pulls a trailer
              </CheckField>
            </div>
          </>
        )}
      </div>
      {change.error && !saying("name") && !saying("owner") && !saying("note") && (
        <Failure
          text={problemText(change.error)}
          retry={() => change.variables && change.mutate(change.variables)}
        />
      )}
      <Copies machine={machine} />
    </fieldset>
  );
}

/** The words of a machine by the paths they are changed by. */
function wordsOf(machine: Schemas["MachineOut"]): Record<string, string> {
  const { name, owner, note, vehicle_class, driven, fluid } = machine;
  const trailer = machine.towing ? "yes" : "no";
  const anti_lock = machine.anti_lock ? "yes" : "no";
  return { name, owner, note, vehicle_class, driven, fluid, regen: machine.regen_axle, anti_lock, trailer };
}

/** A second machine like this one, or this one out of the list. */
function Copies({ machine }: { machine: Schemas["MachineOut"] }) {
  const copy = useCopyMachine(machine.id);
  const remove = useRemoveMachine();
  const navigate = useNavigate();
  const [sure, setSure] = useState(false);
  return (
    <div className="mt-3 flex flex-wrap items-center gap-3">
      <Button
        disabled={copy.isPending}
        onClick={() =>
          copy.mutate(
            { name: `${machine.name}, copy` },
            { onSuccess: (made) => navigate(`/m/${made.id}/machine`) },
          )
        }
      >
        Copy this machine
      </Button>
      {sure ? (
        <>
          <span>Take {machine.name} out of the workshop? Nothing about it is lost.</span>
          <Button
            onClick={() =>
              remove.mutate(
                { row: machine.id, removed: true },
                {
                  onSuccess: () => navigate("/", { state: { left: { id: machine.id, name: machine.name } } }),
                },
              )
            }
          >
            Take it out
          </Button>
          <Button onClick={() => setSure(false)}>Keep it</Button>
        </>
      ) : (
        <Button onClick={() => setSure(true)}>Take out of the workshop</Button>
      )}
      {(copy.error || remove.error) && <Failure text={problemText(copy.error ?? remove.error)} />}
    </div>
  );
}
