import { type ComponentProps, type ReactNode, useEffect, useRef, useState } from "react";
import { beginAt, goToFirst, moveOn, movesOn } from "../lib/order";
import { type Refused, refusalText } from "../lib/refusals";
import { systemStore } from "../lib/settings";
import { useStore } from "../lib/store";
import { Failure } from "./basics";
import { GateContext, useNewGate } from "./gate";

type FormProps = {
  /** What it is for, where no heading says so. */
  label?: string;
  onSend: () => void;
  /** Why what was sent was not taken: each field says its own part, what belongs to none stands below. */
  refused?: Refused | null;
  /** Opened by a press: its first field is where the hand goes on. */
  begin?: boolean;
  /** Where Enter sends instead of going on: a sign-in, which holds nothing but words. */
  enterSends?: boolean;
  children: ReactNode;
} & Pick<ComponentProps<"form">, "className">;

/** A form's fields with their gate: what may be sent, and what stands below them. */
function useForm(refused: Refused | null, onSend: () => void) {
  const { gate, held, homeless, refusedFields } = useNewGate(refused);
  // A refusal that answers what was sent is gone to, folded away or not; one that comes while typing is not.
  const asked = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each refusal
  useEffect(() => {
    if (!refused || !asked.current) return;
    asked.current = false;
    const fields = refusedFields();
    if (fields.length > 0) goToFirst(fields);
  }, [refused]);
  const [kept, setKept] = useState(0);
  const system = useStore(systemStore);
  const words = refused?.fields.length
    ? homeless.map((entry) => refusalText(entry, system)).join("; ")
    : refused?.detail;
  const send = () => {
    setKept(held.size);
    if (held.size > 0) goToFirst(held.values());
    else {
      asked.current = true;
      onSend();
    }
  };
  const below = (
    <>
      {kept > 0 && (
        <Failure
          text={`Nothing was sent: ${kept === 1 ? "one field needs" : `${kept} fields need`} another look.`}
        />
      )}
      {words && <Failure text={words} />}
    </>
  );
  return { gate, send, below, typed: () => setKept(0) };
}

/** What was opened by a press begins at its first field. */
function useBegin<E extends HTMLElement>(begin: boolean | undefined) {
  const place = useRef<E>(null);
  useEffect(() => {
    if (begin && place.current) beginAt(place.current);
  }, [begin]);
  return place;
}

/**
 * Every form of the application. Enter goes on to the next field and sends on the button only; while a field holds
 * something it cannot send nothing is sent, and that field is gone to.
 */
export function Form({ label, onSend, refused = null, begin, enterSends, className, children }: FormProps) {
  const form = useBegin<HTMLFormElement>(begin);
  const { gate, send, below, typed } = useForm(refused, onSend);
  return (
    <GateContext.Provider value={gate}>
      <form
        ref={form}
        aria-label={label}
        className={className}
        onKeyDown={(event) => {
          if (event.key !== "Enter" || enterSends || event.defaultPrevented || !movesOn(event.target)) return;
          event.preventDefault();
          moveOn(event.target);
        }}
        onChange={typed}
        onSubmit={(event) => {
          event.preventDefault();
          event.stopPropagation();
          send();
        }}
      >
        {children}
        {below}
      </form>
    </GateContext.Provider>
  );
}

type PartProps = Pick<FormProps, "onSend" | "refused" | "begin"> & {
  children: (send: () => void) => ReactNode;
};

/** A form within a form, which HTML has none for: its own fields, sent by a button of its own. */
export function FormPart({ onSend, refused = null, begin, children }: PartProps) {
  const part = useBegin<HTMLDivElement>(begin);
  const { gate, send, below, typed } = useForm(refused, onSend);
  return (
    <GateContext.Provider value={gate}>
      <div ref={part} onChange={typed}>
        {children(send)}
        {below}
      </div>
    </GateContext.Provider>
  );
}
