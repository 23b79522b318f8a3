import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ProblemError, problemText, type Schemas } from "../../api/client";
import { useRefused } from "../../api/refused";
import { Button, buttonLook, Failure, GroupTitle, StateWord, Working } from "../../ui/basics";
import { FileButton } from "../../ui/FileButton";
import { Form } from "../../ui/Form";
import { CheckField } from "../../ui/fields";
import { PasswordField } from "../../ui/PasswordField";
import { Cell, Row, RowHead, right, Table, unseen } from "../../ui/Table";
import { useTwice } from "../../ui/useTwice";
import {
  type Chosen,
  sendFile,
  useDeleteBackup,
  useDoctor,
  useLookAtBackup,
  useMakeBackup,
  useRestore,
  useSafekeeping,
} from "./backups";
import { NightlyLock } from "./NightlyLock";
import { momentText } from "./Shown";

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`;

/** Backups of the whole server: made, taken away, put back; and how the server is. */
export function Backup() {
  const state = useSafekeeping();
  const [chosen, setChosen] = useState<{ of: Chosen; words: string } | null>(null);
  if (state.error) return <Failure text={problemText(state.error)} retry={() => state.refetch()} />;
  if (!state.data) return <Working>Reading…</Working>;
  if (!state.data.keeper)
    return (
      <p className="max-w-prose">
        This server holds workshops of others too. Its backups are made and put back on the server itself, by
        whoever runs it (<code>thermaxis backup FILE</code>). Your own workshop you take out as a file, under
        Plan.
      </p>
    );
  return (
    <div className="grid gap-x-10 gap-y-8 wide:grid-cols-2">
      <div className="min-w-0 space-y-8">
        <MakeOne />
        <Kept backups={state.data.backups} onChoose={(of, words) => setChosen({ of, words })} />
      </div>
      <div className="min-w-0 space-y-8">
        {chosen ? (
          <PutBack
            key={JSON.stringify(chosen.of)}
            of={chosen.of}
            words={chosen.words}
            onLeave={() => setChosen(null)}
          />
        ) : (
          <FromFile onChoose={(of, words) => setChosen({ of, words })} />
        )}
        <NightlyLock locked={state.data.locked_by_itself} />
        <Health findings={state.data.findings} version={state.data.version} />
      </div>
    </div>
  );
}

function MakeOne() {
  const make = useMakeBackup();
  const [locked, setLocked] = useState(false);
  const words = useTwice("Passphrase, 10 characters or more", "passphrase");
  const send = () => {
    if (!locked || words.same())
      make.mutate({ passphrase: locked ? words.value : "" }, { onSuccess: words.clear });
  };
  return (
    <section aria-label="Make a backup">
      <GroupTitle>Make a backup</GroupTitle>
      <p className="mb-3 max-w-prose text-muted">
        Everything of this server at one moment, pictures and people included, as one file. The server makes
        one each night by itself and keeps the last 7 days, 4 weeks and 12 months. A backup that lies on the
        same disk does not outlive it: take one away now and then.
      </p>
      <p className="mb-3 max-w-prose text-muted">
        A backup lets nobody in by itself: it holds no sessions and no invitations. Password hashes are in it,
        so lock it by a passphrase where others could reach the file.
      </p>
      <Form
        label="Make a backup"
        className="max-w-md space-y-3"
        refused={useRefused(make.error)}
        onSend={send}
      >
        <CheckField checked={locked} onChange={setLocked}>
          Lock it by a passphrase
        </CheckField>
        {locked && (
          <>
            {words.fields}
            <p className="text-close">
              ◐ Without these words nobody opens it again, and nobody can look them up.
            </p>
          </>
        )}
        <Button type="submit" primary disabled={make.isPending}>
          {make.isPending ? "Making it…" : "Make one now"}
        </Button>
        {make.isSuccess && <p role="status">Made: it is in the list below, to be taken away.</p>}
      </Form>
    </section>
  );
}

/** What does not come back with a backup, a line each. */
function endedLines(ended: Schemas["EndedAccessOut"]): string[] {
  const some = (count: number, one: string, more: string) =>
    count === 0 ? [] : [count === 1 ? `1 ${one}` : `${count} ${more}`];
  return [
    "Every session: everybody signs in again.",
    ...some(ended.keys, "API key: make it again.", "API keys: make them again."),
    ...some(ended.members, "member who has left since stays out.", "members who have left since stay out."),
    ...some(ended.roles, "role is as it was changed since.", "roles are as they were changed since."),
    ...some(
      ended.addresses,
      "shared address that was withdrawn stays withdrawn.",
      "shared addresses that were withdrawn stay withdrawn.",
    ),
    ...some(ended.forgotten, "person stays forgotten.", "people stay forgotten."),
    ...some(
      ended.time_codes,
      "second factor was set up on another server: that person signs in with a recovery code, or gets a new password.",
      "second factors were set up on another server: those people sign in with a recovery code, or get a new password.",
    ),
    ...some(
      ended.pictures,
      "picture cannot be read and is left out.",
      "pictures cannot be read and are left out.",
    ),
  ];
}

function EndedList({ ended }: { ended: Schemas["EndedAccessOut"] }) {
  return (
    <ul className="my-2 list-disc pl-5">
      {endedLines(ended).map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}

type KeptProps = { backups: Schemas["BackupOut"][]; onChoose: (of: Chosen, words: string) => void };

function Kept({ backups, onChoose }: KeptProps) {
  const remove = useDeleteBackup();
  return (
    <section aria-label="Backups">
      <GroupTitle>Backups on this server</GroupTitle>
      {backups.length === 0 && <p>None yet.</p>}
      {backups.length > 0 && (
        <Table label="Backups" width="max-w-3xl" heads={["Made", right("Size"), unseen("Do")]}>
          <tbody>
            {backups.map((row) => (
              <Row key={row.name}>
                <RowHead>
                  {momentText(row.made_at)}
                  <span className="block text-muted">{howMade(row)}</span>
                </RowHead>
                <Cell figures>{megabytes(row.bytes)}</Cell>
                <Cell>
                  <span className="flex flex-wrap justify-end gap-2">
                    <a
                      href={`/api/safekeeping/backups/${row.name}`}
                      className={`condensed inline-flex items-center ${buttonLook(false, true)}`}
                    >
                      Take away
                    </a>
                    <Button
                      small
                      onClick={() => onChoose({ name: row.name }, `the backup of ${momentText(row.made_at)}`)}
                    >
                      Put back…
                    </Button>
                    {!row.by_itself && (
                      <Button small disabled={remove.isPending} onClick={() => remove.mutate(row.name)}>
                        Delete
                      </Button>
                    )}
                  </span>
                </Cell>
              </Row>
            ))}
          </tbody>
        </Table>
      )}
      {remove.error && <Failure text={problemText(remove.error)} />}
    </section>
  );
}

function howMade({ name, by_itself }: Schemas["BackupOut"]): string {
  if (by_itself) return "by itself, at night";
  if (name.startsWith("before-restore")) return "what was there before one was put back";
  return name.startsWith("before-migration") ? "before a new version" : "by hand";
}

function FromFile({ onChoose }: { onChoose: (of: Chosen, words: string) => void }) {
  const [share, setShare] = useState<number | null>(null);
  const [failed, setFailed] = useState("");
  async function send(file: File) {
    setFailed("");
    setShare(0);
    try {
      onChoose({ token: await sendFile(file, setShare) }, file.name);
    } catch (error) {
      setFailed(problemText(error));
    } finally {
      setShare(null);
    }
  }
  return (
    <section aria-label="Put a backup back">
      <GroupTitle>Put a backup back</GroupTitle>
      <p className="mb-3 max-w-prose text-muted">
        One from the list, or a file you took away. It is looked through before anything is touched, and what
        is there now is kept.
      </p>
      {share === null ? (
        <FileButton
          className={`inline-flex ${buttonLook()}`}
          accept=".backup"
          onFile={(file) => void send(file)}
        >
          Choose a file…
        </FileButton>
      ) : (
        <p role="status">
          Sending it: <span className="figures">{Math.floor(100 * share)} %</span>
        </p>
      )}
      {failed && <Failure text={failed} />}
    </section>
  );
}

type PutBackProps = { of: Chosen; words: string; onLeave: () => void };

/** Looked through first, then put back with the password said once more. */
function PutBack({ of, words, onLeave }: PutBackProps) {
  const look = useLookAtBackup();
  const restore = useRestore();
  const queries = useQueryClient();
  const [passphrase, setPassphrase] = useState("");
  const [password, setPassword] = useState("");
  const [stop, setStop] = useState(false);
  const found = look.data;
  const lookRefused = useRefused(look.error);
  const refused = useRefused(restore.error);
  const running = restore.error instanceof ProblemError && restore.error.problem.type.endsWith("/under-way");
  if (restore.data)
    return (
      <section aria-label="Put back" className="max-w-prose border border-ink p-3">
        <p role="status" className="mb-2">
          Everything is as of {momentText(restore.data.made_at)}. What was there before is kept on the server
          as {restore.data.aside}. Ended:
        </p>
        <EndedList ended={restore.data.ended} />
        <Button
          primary
          onClick={() => {
            queries.clear();
            location.assign("/");
          }}
        >
          Go on
        </Button>
      </section>
    );
  return (
    <section aria-label="Put a backup back" className="max-w-prose border border-ink p-3">
      <GroupTitle>Put {words} back</GroupTitle>
      {!found ? (
        <Form
          label="Look at it"
          begin
          enterSends
          className="space-y-3"
          refused={lookRefused}
          onSend={() => look.mutate({ ...of, passphrase })}
        >
          <PasswordField
            label="Passphrase, where it is locked by one"
            path="passphrase"
            complete="current-password"
            optional
            value={passphrase}
            onChange={setPassphrase}
          />
          <div className="flex gap-2">
            <Button type="submit" primary disabled={look.isPending}>
              {look.isPending ? "Looking through it…" : "Look through it"}
            </Button>
            <Button onClick={onLeave}>Leave it</Button>
          </div>
        </Form>
      ) : (
        <Form
          label="Put it back"
          begin
          enterSends
          className="space-y-3"
          refused={refused}
          onSend={() => restore.mutate({ ...of, passphrase, password, stop })}
        >
          <p>
            It is whole: {found.workshops.join(", ") || "no workshop"} as of {momentText(found.made_at)},
            version {found.version}, {megabytes(found.size_bytes)}.
            {found.older && " It is of an earlier version, and has been brought to this one."}
          </p>
          <p className="text-over">
            ▲ What was written since then is not in it, and passwords are those of then. What is there now is
            kept as a backup. This ends:
          </p>
          <EndedList ended={found.ended} />
          {running && (
            <CheckField checked={stop} onChange={setStop}>
              Stop what is still running
            </CheckField>
          )}
          <PasswordField
            label="Your password once more"
            path="password"
            complete="current-password"
            value={password}
            onChange={setPassword}
          />
          <div className="flex gap-2">
            <Button type="submit" primary disabled={restore.isPending}>
              {restore.isPending ? "Putting it back…" : "Put it back"}
            </Button>
            <Button onClick={onLeave}>Leave it</Button>
          </div>
        </Form>
      )}
    </section>
  );
}

function Health({ findings, version }: { findings: Schemas["FindingOut"][]; version: string }) {
  const [deep, setDeep] = useState(false);
  const doctor = useDoctor(deep);
  const rows = doctor.data ?? findings;
  return (
    <section aria-label="The server">
      <GroupTitle>The server, version {version}</GroupTitle>
      <ul className="max-w-prose border-t border-ink">
        {rows.map((row) => (
          <li key={row.name} className="border-b border-hairline py-1.5">
            <StateWord state={row.state}>{row.name}</StateWord> {row.text}
            {row.do && <p className="text-muted">{row.do}</p>}
          </li>
        ))}
      </ul>
      <p className="mt-3">
        <Button disabled={doctor.isFetching} onClick={() => (deep ? void doctor.refetch() : setDeep(true))}>
          {doctor.isFetching ? "Reading the whole database…" : "Look through everything"}
        </Button>
      </p>
      {doctor.error && <Failure text={problemText(doctor.error)} />}
    </section>
  );
}
