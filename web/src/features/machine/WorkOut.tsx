import { useState } from "react";
import { problemText } from "../../api/client";
import { useUnits } from "../../lib/settings";
import { withUnit } from "../../lib/units";
import { Button, Caution, StateWord } from "../../ui/basics";
import { Drawer } from "../../ui/Drawer";
import { Form } from "../../ui/Form";
import { NumberField } from "../../ui/NumberField";
import { fieldOf } from "./fields";
import { type Method, methodOf, numbersOf } from "./methods";
import { useWorkOut } from "./queries";

type Values = Record<string, number | null>;
type Props = {
  /** The field to find a number for; closed while null. */
  path: string | null;
  values: Values;
  onUse: (changes: Record<string, number>) => void;
  onClose: () => void;
};

/** How to measure a number, in three lines, and the arithmetic from what the ruler or the scales say. */
export function WorkOut({ path, values, onUse, onClose }: Props) {
  const found = path === null ? null : methodOf(path);
  return (
    <Drawer open={found !== null} onClose={onClose} title={found?.method.title ?? ""}>
      {found && (
        <Measuring
          key={path}
          method={found.method}
          goesTo={found.goesTo}
          values={values}
          onUse={(changes) => {
            onUse(changes);
            onClose();
          }}
        />
      )}
    </Drawer>
  );
}

type MeasuringProps = {
  method: Method;
  goesTo: Record<string, string>;
  values: Values;
  onUse: (changes: Record<string, number>) => void;
};

function Measuring({ method, goesTo, values, onUse }: MeasuringProps) {
  const { system } = useUnits();
  const [typed, setTyped] = useState<Values>(() =>
    Object.fromEntries(method.inputs.map((input) => [input.name, input.start?.(values) ?? null])),
  );
  // What each box starts with; typing must not write back into the box.
  const [starts] = useState(typed);
  const answer = useWorkOut(method.name, numbersOf(method, typed));
  // What stands there while the next answer is on its way belongs to numbers that are typed no more.
  const ready = answer.data !== undefined && !answer.isPlaceholderData && answer.error === null;
  const changes = Object.fromEntries(
    Object.entries(answer.data?.values ?? {}).flatMap(([name, value]) => {
      const path = goesTo[name];
      return path ? [[path, value] as const] : [];
    }),
  );
  return (
    <Form
      onSend={() => {
        if (ready) onUse(changes);
      }}
    >
      <ol className="mb-4 list-decimal space-y-1 pl-5">
        {method.how.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ol>
      <div className="grid grid-cols-2 gap-x-4 gap-y-3">
        {method.inputs.map((input) => (
          <NumberField
            key={input.name}
            label={input.label}
            quantity={input.quantity}
            system={system}
            value={starts[input.name] ?? null}
            nullable
            hint={input.optional ? "if there is one" : undefined}
            onChange={(value) => setTyped((before) => ({ ...before, [input.name]: value }))}
          />
        ))}
      </div>
      <div className="mt-4 min-h-16 border-t border-ink pt-2" aria-live="polite">
        {answer.error && <StateWord state="over">{problemText(answer.error)}</StateWord>}
        {answer.data &&
          !answer.error &&
          Object.entries(changes).map(([path, value]) => {
            const field = fieldOf(path);
            return (
              field && (
                <p key={path} data-worked-out={path}>
                  {field.label}:{" "}
                  <span className="figures font-semibold">{withUnit(value, field.quantity, system)}</span>
                </p>
              )
            );
          })}
        {!answer.data && !answer.error && (
          <p className="text-muted">Fill in what was measured: the answer stands here.</p>
        )}
      </div>
      <Button type="submit" primary className="mt-2" disabled={!ready}>
        Use it
      </Button>
      <Caution>
        Wheels off the ground: on stands, chocked, never under a jack alone. Where in doubt, a qualified
        technician.
      </Caution>
    </Form>
  );
}
