import { useState } from "react";
import { PasswordField } from "./PasswordField";

/** A new password or passphrase, typed twice, as nobody sees what stands there. */
export function useTwice(label: string, path: string, again = "The same again") {
  const [typed, setTyped] = useState({ value: "", again: "" });
  const [differ, setDiffer] = useState(false);
  /** Whether both are the same; where not, it is said. */
  const same = () => {
    setDiffer(typed.value !== typed.again);
    return typed.value === typed.again;
  };
  const fields = (
    <>
      <PasswordField
        label={label}
        path={path}
        complete="new-password"
        value={typed.value}
        onChange={(value) => setTyped({ ...typed, value })}
      />
      <PasswordField
        label={again}
        complete="new-password"
        value={typed.again}
        refused={differ ? "the same as above" : undefined}
        onChange={(again) => setTyped({ ...typed, again })}
      />
    </>
  );
  return { value: typed.value, same, fields, clear: () => setTyped({ value: "", again: "" }) };
}
