import { useState } from "react";
import { useRefused } from "../../api/refused";
import { Button, StageTitle } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { Form } from "../../ui/Form";
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
  send: (body: { username: string; password: string }) => void;
};

function Credentials({ isPending, error, send }: FormProps) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const field = "block h-9 w-full rounded-xs border border-ink bg-paper px-2";
  return (
    <Form
      enterSends
      className="space-y-3"
      refused={useRefused(error)}
      onSend={() => {
        send({ username, password });
      }}
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
      <Button primary type="submit" disabled={isPending}>
        Sign in
      </Button>
    </Form>
  );
}
