import { useState } from "react";
import { ProblemError, problemText } from "../../api/client";
import { useRefused } from "../../api/refused";
import { useUnits } from "../../lib/settings";
import { Button, Failure, GroupTitle, StateWord } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { CheckField, SelectField, TextField } from "../../ui/fields";
import { NumberField } from "../../ui/NumberField";
import { type Fastener, useFasteners, useKeepFastener } from "./queries";
import { useSheet } from "./sheet";
import { driveText, torqueText } from "./words";

/** The fasteners of this axle, as the vehicle's own manual has them. */
export function Fasteners() {
  const { job, open } = useSheet();
  const [editing, edit] = useState<string | null>(null);
  return (
    <section aria-label="Fasteners" className="mb-6">
      <GroupTitle>Fasteners, {job.axle}</GroupTitle>
      <ul>
        {job.fasteners.map((fastener) => (
          <li key={fastener.kind} data-fastener={fastener.kind} className="border-t border-hairline py-1.5">
            <div className="flex items-baseline justify-between gap-2">
              <span className="min-w-0">
                {fastener.label}
                <span className="condensed block text-xs text-muted">
                  {[
                    driveText(fastener),
                    fastener.thread,
                    fastener.page && `p. ${fastener.page}`,
                    fastener.single_use && "new each time",
                  ]
                    .filter(Boolean)
                    .join(" · ")}
                </span>
              </span>
              <span className="shrink-0 text-right">
                {fastener.torque_Nm !== null ? (
                  <span className="figures text-xs">{torqueText(fastener.torque_Nm)}</span>
                ) : fastener.words ? (
                  <span className="condensed">{fastener.words}</span>
                ) : (
                  <StateWord state="close">look it up</StateWord>
                )}
                {open && (
                  <button
                    type="button"
                    className="condensed block w-full text-right text-xs underline underline-offset-2"
                    aria-expanded={editing === fastener.kind}
                    onClick={() => edit(editing === fastener.kind ? null : fastener.kind)}
                  >
                    Write it down<span className="sr-only">: {fastener.label}</span>
                  </button>
                )}
              </span>
            </div>
            {editing === fastener.kind && (
              <FastenerForm fastener={fastener} begin onKept={() => edit(null)} />
            )}
          </li>
        ))}
      </ul>
      <p className="condensed mt-1 text-xs text-muted">
        Nothing is filled in for you, nor copied from the other axle: a torque stands in the vehicle's manual.
      </p>
    </section>
  );
}

type FormProps = { fastener: Fastener; begin?: boolean; onKept?: () => void };

/** What the manual says of one kind of fastener, typed in either unit. */
export function FastenerForm({ fastener, begin, onKept }: FormProps) {
  const { job, machineId } = useSheet();
  const { system, say } = useUnits();
  const keep = useKeepFastener(machineId, job.id);
  const words = useFasteners(machineId).data;
  const [now, setNow] = useState(fastener);
  const set = (change: Partial<Fastener>) => setNow((before) => ({ ...before, ...change }));
  const names = [
    "torque_Nm",
    "words",
    "page",
    "source",
    "thread",
    "drive",
    "size_m",
    "counter_hold_m",
    "treatment",
    "single_use",
    "left_hand",
  ] as const;
  const differing = names.filter((name) => now[name] !== fastener[name]);
  const asked =
    keep.error instanceof ProblemError
      ? keep.error.problem.fields.find((entry) => entry.said && entry.allowed.startsWith("what is meant"))
      : undefined;
  const refused = useRefused(asked ? null : keep.error);
  const send = (sure: boolean) => {
    if (differing.length === 0) return onKept?.();
    keep.mutate(
      {
        axle: job.axle,
        kind: fastener.kind,
        changes: Object.fromEntries(differing.map((name) => [name, now[name]])),
        seen: Object.fromEntries(differing.map((name) => [name, fastener[name]])),
        sure,
      },
      { onSuccess: () => onKept?.() },
    );
  };
  return (
    <Form
      label={`${fastener.label}, by the manual`}
      className="mt-2 mb-3 border-l-2 border-ink pl-3"
      refused={refused}
      {...(begin ? { begin } : {})}
      onSend={() => send(false)}
    >
      <div className="grid grid-cols-2 gap-x-4 gap-y-3">
        <NumberField
          label="Torque"
          path="torque_Nm"
          quantity="torque"
          system={system}
          value={now.torque_Nm}
          nullable
          placeholder="look it up"
          onCommit={(torque_Nm) => set({ torque_Nm })}
        />
        <TextField label="Page" path="page" value={now.page} onChange={(page) => set({ page })} />
        <TextField
          label="Or why it needs none"
          path="words"
          wide
          value={now.words}
          onChange={(text) => set({ words: text })}
        />
        <SelectField
          label="Thread"
          value={now.thread}
          options={[["", "not known"], ...(words?.threads ?? []).map((word) => [word, word] as const)]}
          onChange={(thread) => set({ thread })}
        />
        <SelectField
          label="Drive"
          value={now.drive}
          options={(words?.drives ?? [now.drive]).map((word) => [word, word] as const)}
          onChange={(drive) => set({ drive })}
        />
        <NumberField
          label="Size of the tool"
          path="size_m"
          quantity="bore"
          system={system}
          value={now.size_m}
          nullable
          onCommit={(size_m) => set({ size_m })}
        />
        <NumberField
          label="Size to hold against"
          path="counter_hold_m"
          quantity="bore"
          system={system}
          value={now.counter_hold_m}
          nullable
          onCommit={(counter_hold_m) => set({ counter_hold_m })}
        />
        <SelectField
          label="Threads"
          value={now.treatment}
          options={[
            ["", "as the school says"],
            ...(words?.treatments ?? []).map((word) => [word, word] as const),
          ]}
          onChange={(treatment) => set({ treatment })}
        />
        <div>
          <CheckField checked={now.single_use} onChange={(single_use) => set({ single_use })}>
            Used once
          </CheckField>
          <CheckField checked={now.left_hand} onChange={(left_hand) => set({ left_hand })}>
            Left-hand thread
          </CheckField>
        </div>
      </div>
      {asked?.said && (
        <div role="alert" className="mt-3 border-l-2 border-close-fill pl-3">
          <p>◐ {say(asked.said)}</p>
          <Button className="mt-1" onClick={() => send(true)}>
            It is right
          </Button>
        </div>
      )}
      <p className="mt-3 flex gap-3">
        <Button type="submit" primary disabled={keep.isPending}>
          Keep it
        </Button>
        {onKept && <Button onClick={onKept}>Leave it</Button>}
      </p>
      {keep.error && !asked && !(keep.error instanceof ProblemError) && (
        <Failure text={problemText(keep.error)} />
      )}
    </Form>
  );
}
