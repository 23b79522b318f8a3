import { useState } from "react";
import { problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { dateText } from "../../lib/text";
import { Button, Failure, StageTitle, Working } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { TextField } from "../../ui/fields";
import { useTwice } from "../../ui/useTwice";
import { useSession } from "../session/queries";
import { useAddress, useFound, useJoin, useJoinToo, useReset } from "./queries";

/** Where a one-time address leads: a workshop of one's own, membership, another password. */
export function JoinPage() {
  // Behind the #, so that it stands in no server's log; taken once, as the address bar may be cleared of it.
  const [secret] = useState(() => location.hash.slice(1));
  const address = useAddress(secret);
  return (
    <main className="mx-auto max-w-md p-6">
      {secret.length < 10 || address.error ? (
        <>
          <StageTitle title="This address leads nowhere" />
          <p>
            It was used, withdrawn, or is older than seven days – or a part of it was lost on the way. Ask
            whoever gave it to you for another one.
          </p>
          {address.error && <Failure text={problemText(address.error)} />}
        </>
      ) : !address.data ? (
        <Working>Looking where it leads…</Working>
      ) : address.data.kind === "found" ? (
        <Found secret={secret} />
      ) : address.data.kind === "reset" ? (
        <Reset secret={secret} name={address.data.name} />
      ) : (
        <Join secret={secret} address={address.data} />
      )}
    </main>
  );
}

const usePassword = () => useTwice("Password, 10 characters or more", "password");

function NameField(props: { value: string; onChange: (value: string) => void }) {
  return <TextField label="Your name to sign in with" path="username" required {...props} />;
}

function Found({ secret }: { secret: string }) {
  const found = useFound();
  const { value: password, same, fields } = usePassword();
  const [workshop, setWorkshop] = useState("");
  const [currency, setCurrency] = useState("£");
  const [username, setUsername] = useState("");
  return (
    <>
      <StageTitle
        title="Your workshop"
        note="You are the first one here: you make the workshop and are its owner. Others you invite afterwards, under Settings."
      />
      <Form
        label="Make the workshop"
        begin
        className="space-y-3"
        refused={useRefused(found.error)}
        onSend={() => same() && found.mutate({ secret, username, password, workshop, currency })}
      >
        <TextField
          label="Name of the workshop"
          path="workshop"
          value={workshop}
          required
          onChange={setWorkshop}
        />
        <TextField
          label="Money, as it stands before a price"
          path="currency"
          value={currency}
          required
          onChange={setCurrency}
        />
        <NameField value={username} onChange={setUsername} />
        {fields}
        <Button type="submit" primary disabled={found.isPending}>
          Make the workshop
        </Button>
      </Form>
    </>
  );
}

const may: Record<string, string> = {
  owner: "You may do everything, people and settings among it.",
  fitter: "You may do all work on all machines.",
  driver: "You see and work on machines of your own.",
  reader: "You see everything and change nothing.",
};

function Join({ secret, address }: { secret: string; address: Schemas["AddressLook"] }) {
  const session = useSession().data;
  const [asNew, setAsNew] = useState(false);
  const too = useJoinToo();
  return (
    <>
      <StageTitle
        title={`Join ${address.workshop}`}
        note={`As ${address.role}. ${may[address.role] ?? ""} Good until ${dateText(address.ends_at)}.`}
      />
      {session && !asNew ? (
        <div className="space-y-3">
          <p>
            You are signed in as {session.user}. You can belong to several workshops, and switch between them.
          </p>
          <div className="flex flex-wrap gap-2">
            <Button primary disabled={too.isPending} onClick={() => too.mutate(secret)}>
              Join as {session.user}
            </Button>
            <Button onClick={() => setAsNew(true)}>I am somebody else</Button>
          </div>
          {too.error && <Failure text={problemText(too.error)} />}
        </div>
      ) : (
        <JoinAsNew secret={secret} />
      )}
    </>
  );
}

function JoinAsNew({ secret }: { secret: string }) {
  const join = useJoin();
  const { value: password, same, fields } = usePassword();
  const [username, setUsername] = useState("");
  return (
    <Form
      label="Join"
      begin
      className="space-y-3"
      refused={useRefused(join.error)}
      onSend={() => same() && join.mutate({ secret, username, password })}
    >
      <NameField value={username} onChange={setUsername} />
      {fields}
      <Button type="submit" primary disabled={join.isPending}>
        Join
      </Button>
      <p className="text-muted">
        Do you sign in here already? <a href="/">Sign in</a> first, then open this address again.
      </p>
    </Form>
  );
}

function Reset({ secret, name }: { secret: string; name: string }) {
  const reset = useReset();
  const { value: password, same, fields } = usePassword();
  return (
    <>
      <StageTitle
        title="Another password"
        note={`For ${name}. Every other session ends, and a second factor is set up anew.`}
      />
      <Form
        label="Another password"
        begin
        className="space-y-3"
        refused={useRefused(reset.error)}
        onSend={() => same() && reset.mutate({ secret, password })}
      >
        {fields}
        <Button type="submit" primary disabled={reset.isPending}>
          Set the password
        </Button>
      </Form>
    </>
  );
}
