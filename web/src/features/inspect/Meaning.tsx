import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useMachineId } from "../../lib/route";
import { useUnits } from "../../lib/settings";
import { Button, Failure, GroupTitle, StateWord } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField, TextField } from "../../ui/fields";
import { useOverrule } from "./queries";
import { useSheet } from "./sheet";

type Ruling = Schemas["RulingOut"];

/** Every verdict, gravest first, with its rule, and a way to set it aside. */
export function Meaning() {
  const { inspection } = useSheet();
  return (
    <section aria-label="What it means">
      <GroupTitle>What it means</GroupTitle>
      {inspection.rulings.length === 0 && (
        <p className="text-muted">
          Nothing yet. Start with the pads of one wheel: inner and outer; the verdict appears as you type.
        </p>
      )}
      <ul>
        {inspection.rulings.map((ruling) => (
          <Verdict key={ruling.subject} ruling={ruling} />
        ))}
      </ul>
    </section>
  );
}

function Verdict({ ruling }: { ruling: Ruling }) {
  const { inspection } = useSheet();
  const { say } = useUnits();
  const [opened, setOpened] = useState(false);
  const overrule = useOverrule(useMachineId(), inspection.id);
  const set = ruling.overruled;
  return (
    <li
      data-ruling={ruling.subject}
      data-word={set?.word ?? ruling.word}
      className="border-t border-ink py-2"
    >
      <div className={set ? "text-muted line-through" : ""}>
        <StateWord state={ruling.state}>{say(ruling.headline)}</StateWord>
      </div>
      {ruling.text && <p>{say(ruling.text)}</p>}
      {ruling.check && (
        <p>
          <span className="font-semibold">Check: </span>
          {ruling.check}
        </p>
      )}
      {set && (
        <p className="mt-1 border-l-2 border-ink pl-2">
          <span className="font-semibold">Overruled: {set.word}.</span> {set.reason}
        </p>
      )}
      <p className="condensed flex flex-wrap gap-x-3 text-xs text-muted">
        <span>Rule: {say(ruling.rule)}</span>
        {ruling.choices.length > 0 && (
          <button
            type="button"
            className="min-h-6 text-ink underline underline-offset-2"
            onClick={() =>
              set ? overrule.mutate({ subject: ruling.subject, word: null, reason: "" }) : setOpened(!opened)
            }
          >
            {set ? "Take it back" : "Overrule"}
            <span className="sr-only">: {say(ruling.headline)}</span>
          </button>
        )}
      </p>
      {opened && !set && (
        <OverruleForm
          ruling={ruling}
          pending={overrule.isPending}
          onKeep={(word, reason) =>
            overrule.mutate({ subject: ruling.subject, word, reason }, { onSuccess: () => setOpened(false) })
          }
        />
      )}
      {overrule.error && <Failure text={problemText(overrule.error)} />}
    </li>
  );
}

type FormProps = { ruling: Ruling; pending: boolean; onKeep: (word: string, reason: string) => void };

function OverruleForm({ ruling, pending, onKeep }: FormProps) {
  const { say } = useUnits();
  const others = ruling.choices.filter((word) => word !== ruling.word);
  const [word, setWord] = useState(others[0] ?? "");
  const [reason, setReason] = useState("");
  return (
    <Form
      begin
      label={`Overrule: ${say(ruling.headline)}`}
      className="mt-2 grid gap-2"
      onSend={() => {
        onKeep(word, reason);
      }}
    >
      <SelectField
        label="Instead"
        value={word}
        options={others.map((other) => [other, other] as const)}
        onChange={setWord}
      />
      <TextField label="Reason, for whoever reads it next" value={reason} required onChange={setReason} />
      <Button type="submit" className="justify-self-start" disabled={pending || reason.trim() === ""}>
        Keep my verdict
      </Button>
    </Form>
  );
}
