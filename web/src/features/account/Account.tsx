import { useState } from "react";
import { ProblemError, problemText } from "../../api/client";
import { useRefused } from "../../api/refused";
import { Button, Failure, StageTitle } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { Labelled, SelectField } from "../../ui/fields";
import { useChangePassword, useChooseWorkshop, useSession } from "../session/queries";

type BoxProps = {
  label: string;
  value: string;
  complete: "current-password" | "new-password";
  refused?: string | undefined;
  onChange: (value: string) => void;
};

function PasswordBox({ label, value, complete, refused, onChange }: BoxProps) {
  return (
    <Labelled label={label} refused={refused}>
      {(attributes) => (
        <input
          {...attributes}
          type="password"
          required
          autoComplete={complete}
          value={value}
          className={`h-8 w-full rounded-xs border border-ink bg-paper px-2 ${refused ? "border-over" : ""}`}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Labelled>
  );
}

const empty = { current: "", new: "", again: "" };

/** Who is signed in, in which workshop and as what, and another password for them. */
export function Account() {
  const session = useSession();
  const change = useChangePassword();
  const choose = useChooseWorkshop();
  const [typed, setTyped] = useState(empty);
  const [differ, setDiffer] = useState(false);
  const set = (part: Partial<typeof empty>) => setTyped({ ...typed, ...part });
  const whole = useRefused(change.error);
  const problem = change.error instanceof ProblemError ? change.error.problem : null;
  const refused = (field: string) => problem?.fields.find((entry) => entry.field === field)?.allowed;
  const send = () => {
    setDiffer(typed.new !== typed.again);
    if (typed.new !== typed.again) return;
    change.mutate({ current: typed.current, new: typed.new }, { onSuccess: () => setTyped(empty) });
  };
  return (
    <>
      <StageTitle
        title="Account"
        note={
          session.data &&
          `Signed in as ${session.data.user}, ${session.data.role} of ${session.data.workshop}`
        }
      />
      {session.data && session.data.workshops.length > 1 && (
        <div className="mb-5 max-w-xs">
          <SelectField
            label="Workshop"
            value={String(session.data.workshop_id)}
            options={session.data.workshops.map((row) => [String(row.id), row.name] as const)}
            onChange={(id) => choose.mutate(Number(id))}
          />
          {choose.error && <Failure text={problemText(choose.error)} />}
        </div>
      )}
      <Form
        className="max-w-xs space-y-3"
        onSend={send}
        label="Change the password"
        refused={problem?.fields.length ? null : whole}
      >
        <PasswordBox
          label="Present password"
          value={typed.current}
          complete="current-password"
          refused={refused("current")}
          onChange={(current) => set({ current })}
        />
        <PasswordBox
          label="New password, 10 characters or more"
          value={typed.new}
          complete="new-password"
          refused={refused("new")}
          onChange={(value) => set({ new: value })}
        />
        <PasswordBox
          label="The new one again"
          value={typed.again}
          complete="new-password"
          refused={differ ? "the same as above" : undefined}
          onChange={(again) => set({ again })}
        />
        <Button primary type="submit" disabled={change.isPending}>
          Change the password
        </Button>
        {change.isSuccess && (
          <p role="status">Changed. You stay signed in here; everywhere else the new one is asked for.</p>
        )}
      </Form>
    </>
  );
}
