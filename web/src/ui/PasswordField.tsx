import { useEffect, useId, useRef } from "react";
import { refusalText } from "../lib/refusals";
import { Labelled } from "./fields";
import { useGate } from "./gate";

type Props = {
  label: string;
  value: string;
  complete: "current-password" | "new-password" | "one-time-code";
  path?: string;
  refused?: string | undefined;
  /** It is asked for just now: the hand goes on there. */
  begin?: boolean;
  optional?: boolean;
  onChange: (value: string) => void;
};

/** A password, or a code: what stands in it nobody reads, but the browser may fill it in. */
export function PasswordField({ label, value, complete, path, refused, begin, optional, onChange }: Props) {
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (begin) box.current?.focus();
  }, [begin]);
  const gate = useGate({ id: useId(), path, element: () => box.current });
  const said = refused ?? (gate.refusal && refusalText(gate.refusal, "metric", { label }));
  return (
    <Labelled label={label} refused={said}>
      {(attributes) => (
        <input
          {...attributes}
          ref={box}
          type={complete === "one-time-code" ? "text" : "password"}
          required={!optional}
          autoComplete={complete}
          value={value}
          className={`h-8 w-full rounded-xs border border-ink bg-paper px-2 ${said ? "border-over" : ""}`}
          onChange={(event) => {
            gate.retyped();
            onChange(event.target.value);
          }}
        />
      )}
    </Labelled>
  );
}
