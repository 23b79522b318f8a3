import { useState } from "react";
import { problemText } from "../../api/client";
import { useSignIn } from "../../api/queries";
import { Button, Failure, StageTitle } from "../../ui/basics";

export function SignIn() {
  const signIn = useSignIn();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const field = "block h-9 w-full rounded-xs border border-ink bg-paper px-2";
  return (
    <main className="mx-auto max-w-xs p-6">
      <StageTitle title="Sign in to Thermaxis" note="With the name and password your workshop gave you." />
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate({ username, password });
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
        <Button primary type="submit" disabled={signIn.isPending}>
          Sign in
        </Button>
      </form>
      {signIn.error && <Failure text={problemText(signIn.error)} />}
    </main>
  );
}
