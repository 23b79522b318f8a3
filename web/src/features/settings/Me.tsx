import { useState } from "react";
import { problemText } from "../../api/client";
import { useRefused } from "../../api/refused";
import { Button, buttonLook, Failure, GroupTitle, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { SelectField } from "../../ui/fields";
import { PasswordField } from "../../ui/PasswordField";
import { Cell, Row, RowHead, Table, unseen } from "../../ui/Table";
import { useTwice } from "../../ui/useTwice";
import { useChangePassword, useChooseWorkshop, useSession } from "../session/queries";
import { useEndOthers, useEndSession, useForgetMe, useLeave, useMe } from "./queries";
import { SecondFactor } from "./SecondFactor";
import { momentText } from "./Shown";
import { WithPassword } from "./WithPassword";

/** What is one's own: password, second factor, where one is signed in, one's data. */
export function Me() {
  const me = useMe();
  const session = useSession().data;
  if (me.error) return <Failure text={problemText(me.error)} retry={() => me.refetch()} />;
  if (!me.data || !session) return <Working>Reading…</Working>;
  return (
    <div className="grid gap-x-10 gap-y-8 wide:grid-cols-2">
      <div className="space-y-8">
        {session.second_missing && (
          <p role="note" className="max-w-md border border-close px-3 py-2">
            {session.workshop} asks everybody for a second factor. Set yours up here, then the rest opens.
          </p>
        )}
        <SecondFactor me={me.data} />
        <PasswordPart />
      </div>
      <div className="space-y-8">
        <Workshops />
        <Sessions sessions={me.data.sessions} />
        <Mine workshop={me.data.workshop} />
      </div>
    </div>
  );
}

function PasswordPart() {
  const change = useChangePassword();
  const [current, setCurrent] = useState("");
  const { value, same, fields, clear } = useTwice(
    "New password, 10 characters or more",
    "new",
    "The new one again",
  );
  const done = () => {
    setCurrent("");
    clear();
  };
  return (
    <section aria-label="Password">
      <GroupTitle>Password</GroupTitle>
      <Form
        className="max-w-xs space-y-3"
        onSend={() => same() && change.mutate({ current, new: value }, { onSuccess: done })}
        label="Change the password"
        refused={useRefused(change.error)}
      >
        <PasswordField
          label="Present password"
          path="current"
          value={current}
          complete="current-password"
          onChange={setCurrent}
        />
        {fields}
        <Button type="submit" disabled={change.isPending}>
          Change the password
        </Button>
        {change.isSuccess && (
          <p role="status">Changed. You stay signed in here; everywhere else the new one is asked for.</p>
        )}
      </Form>
    </section>
  );
}

function Workshops() {
  const session = useSession().data;
  const choose = useChooseWorkshop();
  if (!session || session.workshops.length < 2) return null;
  return (
    <section aria-label="Workshops" className="max-w-xs">
      <GroupTitle>Workshops</GroupTitle>
      <SelectField
        label="You work in"
        value={String(session.workshop_id)}
        options={session.workshops.map((row) => [String(row.id), row.name] as const)}
        onChange={(id) => choose.mutate({ workshop_id: Number(id) })}
      />
      {choose.error && <Failure text={problemText(choose.error)} />}
    </section>
  );
}

type SessionRow = NonNullable<ReturnType<typeof useMe>["data"]>["sessions"][number];

function Sessions({ sessions }: { sessions: SessionRow[] }) {
  const end = useEndSession();
  const others = useEndOthers();
  const failed = end.error ?? others.error;
  return (
    <section aria-label="Where you are signed in">
      <GroupTitle>Where you are signed in</GroupTitle>
      <Table label="Sessions" width="max-w-xl" heads={["Device", "Address", "Last seen", unseen("End")]}>
        <tbody>
          {sessions.map((row) => (
            <Row key={row.id}>
              <RowHead>{row.device}</RowHead>
              <Cell className="figures">{row.place}</Cell>
              <Cell className="condensed">{row.here ? "now" : momentText(row.seen_at)}</Cell>
              <Cell className="text-right">
                {row.here ? (
                  <span className="condensed text-muted">this one</span>
                ) : (
                  <Button small disabled={end.isPending} onClick={() => end.mutate(row.id)}>
                    End it<span className="sr-only">: {row.device}</span>
                  </Button>
                )}
              </Cell>
            </Row>
          ))}
        </tbody>
      </Table>
      {sessions.length > 1 && (
        <p className="mt-3">
          <Button disabled={others.isPending} onClick={() => others.mutate(undefined)}>
            End all others
          </Button>
        </p>
      )}
      {others.data && <p role="status">Ended: whoever worked there is asked to sign in.</p>}
      {failed && <Failure text={problemText(failed)} />}
    </section>
  );
}

function Mine({ workshop }: { workshop: string }) {
  const [asked, setAsked] = useState<"leave" | "forget" | null>(null);
  const leave = useLeave();
  const forget = useForgetMe();
  const close = () => setAsked(null);
  return (
    <section aria-label="Your data" className="max-w-prose">
      <GroupTitle>Your data</GroupTitle>
      <p className="mb-3 text-muted">
        Everything that is kept about you, as a file. Removed, your name goes from the log and from every job;
        what you did stays with the workshop, and so do the machines.
      </p>
      <div className="flex flex-wrap gap-2">
        <a href="/api/me/file" className={`inline-flex items-center ${buttonLook()}`}>
          My data as a file
        </a>
        <Button onClick={() => setAsked("leave")}>Leave {workshop}</Button>
        <Button onClick={() => setAsked("forget")}>Remove me</Button>
      </div>
      {asked === "leave" && (
        <WithPassword
          label={`Leave ${workshop}`}
          pending={leave.isPending}
          error={leave.error}
          onSend={(password) => leave.mutate({ password })}
          onLeave={close}
        >
          <p>You see nothing of it any more, and your keys end. An owner may invite you again.</p>
        </WithPassword>
      )}
      {asked === "forget" && (
        <WithPassword
          label="Remove me for good"
          pending={forget.isPending}
          error={forget.error}
          onSend={(password) => forget.mutate({ password })}
          onLeave={close}
        >
          <p>
            Your name, password, sessions and keys are deleted in every workshop here. Nobody brings them
            back.
          </p>
        </WithPassword>
      )}
    </section>
  );
}
