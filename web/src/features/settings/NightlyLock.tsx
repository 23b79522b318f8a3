import { useState } from "react";
import { useRefused } from "../../api/refused";
import { Button, GroupTitle } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { PasswordField } from "../../ui/PasswordField";
import { useTwice } from "../../ui/useTwice";
import { useLockBackups } from "./backups";

/** The nights' backups are locked from the moment somebody sets a passphrase for them. */
export function NightlyLock({ locked }: { locked: boolean }) {
  const set = useLockBackups();
  const [open, setOpen] = useState(false);
  const [password, setPassword] = useState("");
  const words = useTwice("Passphrase, 10 characters or more", "passphrase");
  const refused = useRefused(set.error);
  const send = (passphrase: string) =>
    set.mutate(
      { passphrase, password },
      {
        onSuccess: () => {
          words.clear();
          setPassword("");
          setOpen(false);
        },
      },
    );
  return (
    <section aria-label="Lock the nights' backups">
      <GroupTitle>Lock the nights' backups</GroupTitle>
      <p className="mb-3 max-w-prose text-muted">
        {locked
          ? "They are locked by a passphrase. To restore one, type it."
          : "They are not locked. With a passphrase, a stolen copy opens nothing."}
      </p>
      {!open && <Button onClick={() => setOpen(true)}>{locked ? "Change the lock…" : "Lock them…"}</Button>}
      {set.isSuccess && !open && (
        <p role="status">
          {locked ? "Locked from the next night on." : "Not locked from the next night on."}
        </p>
      )}
      {open && (
        <Form
          label="Lock the nights' backups"
          begin
          className="max-w-md space-y-3"
          refused={refused}
          onSend={() => words.same() && send(words.value)}
        >
          {words.fields}
          <PasswordField
            label="Your password"
            path="password"
            complete="current-password"
            value={password}
            onChange={setPassword}
          />
          <div className="flex flex-wrap gap-2">
            <Button type="submit" primary disabled={set.isPending}>
              {locked ? "Change the passphrase" : "Lock them"}
            </Button>
            {locked && (
              <Button disabled={set.isPending} onClick={() => send("")}>
                Unlock them
              </Button>
            )}
            <Button onClick={() => setOpen(false)}>Cancel</Button>
          </div>
        </Form>
      )}
    </section>
  );
}
