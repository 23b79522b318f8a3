import { type ReactNode, useState } from "react";
import { useRefused } from "../../api/refused";
import { Button } from "../../ui/basics";
import { Form } from "../../ui/Form";
import { PasswordField } from "../../ui/PasswordField";

type Props = {
  label: string;
  children?: ReactNode;
  pending: boolean;
  error: Error | null;
  onSend: (password: string) => void;
  onLeave?: () => void;
};

/** Something that asks for the password once more: whoever finds the page open cannot do it. */
export function WithPassword({ label, children, pending, error, onSend, onLeave }: Props) {
  const [password, setPassword] = useState("");
  return (
    <Form
      label={label}
      begin
      enterSends
      className="my-3 max-w-md space-y-3 border border-hairline p-3"
      refused={useRefused(error)}
      onSend={() => onSend(password)}
    >
      {children}
      <PasswordField
        label="Your password once more"
        path="password"
        complete="current-password"
        value={password}
        onChange={setPassword}
      />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" primary disabled={pending}>
          {label}
        </Button>
        {onLeave && <Button onClick={onLeave}>Leave it</Button>}
      </div>
    </Form>
  );
}
