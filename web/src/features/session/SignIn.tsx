import { useState } from "react";
import { ProblemError } from "../../api/client";
import { useRefused } from "../../api/refused";
import { Button, StageTitle } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { Form } from "../../ui/Form";
import { PasswordField } from "../../ui/PasswordField";
import { useSignIn, useSignInAgain } from "./queries";

/** The first page of who is not signed in. */
export function SignIn() {
  const signIn = useSignIn();
  return (
    <main className="mx-auto max-w-xs p-6">
      <StageTitle title="Sign in to Thermaxis" note="With the name and password your workshop gave you." />
      <Credentials {...signIn} send={signIn.mutate} />
    </main>
  );
}

/** Over the page where a session has ended: what was typed stays, and goes on its way after the sign-in. */
export function SignInAgain() {
  const signIn = useSignInAgain();
  return (
    <Drawer open title="Sign in again">
      <p className="mb-3">
        Your session has ended. Nothing on the page is lost: it goes on where it was as soon as you are back.
      </p>
      <Credentials {...signIn} send={signIn.mutate} />
    </Drawer>
  );
}

type FormProps = {
  isPending: boolean;
  error: Error | null;
  send: (body: { username: string; password: string; code: string }) => void;
};

function Credentials({ isPending, error, send }: FormProps) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  // Asked for once name and password are right.
  const [asked, setAsked] = useState(false);
  const needed = error instanceof ProblemError && error.problem.type.endsWith("/code");
  if (needed && !asked) setAsked(true);
  const refused = useRefused(error);
  const field = "block h-9 w-full rounded-xs border border-ink bg-paper px-2";
  return (
    <Form
      enterSends
      className="space-y-3"
      // The first time it is a question, not a refusal.
      refused={needed && code === "" ? null : refused}
      onSend={() => send({ username, password, code })}
    >
      <label className="block">
        Name
        <input
          className={field}
          value={username}
          autoComplete="username"
          onChange={(e) => setUsername(e.target.value)}
          required
        />
      </label>
      <label className="block">
        Password
        <input
          className={field}
          type="password"
          value={password}
          autoComplete="current-password"
          onChange={(e) => setPassword(e.target.value)}
          required
        />
      </label>
      {asked && (
        <div className="border border-hairline p-3">
          <PasswordField
            label="Code your device shows"
            complete="one-time-code"
            value={code}
            onChange={setCode}
            begin
          />
          <p className="condensed mt-1 text-muted">
            Without the device: one of the codes you wrote down. Each is good once.
          </p>
        </div>
      )}
      <Button primary type="submit" disabled={isPending}>
        Sign in
      </Button>
    </Form>
  );
}
