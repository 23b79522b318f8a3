// What a form knows of its fields: which are refused, and what the server said of each.
import { createContext, useCallback, useContext, useEffect, useRef, useState } from "react";
import type { Refusal, Refused } from "../lib/refusals";

export type Gate = {
  refused: Refused | null;
  /** A field that holds something it cannot send, or null once it can. */
  hold: (id: string, element: HTMLElement | null) => void;
  /** A field that shows what the server says of this path. */
  claim: (path: string, id: string, element: () => HTMLElement | null) => () => void;
};

export const GateContext = createContext<Gate | null>(null);

/** The fields of one form: what is held back, and which refusals no field shows. */
export function useNewGate(refused: Refused | null) {
  const held = useRef(new Map<string, HTMLElement>());
  const claims = useRef(new Map<string, Map<string, () => HTMLElement | null>>());
  // A field taken in or out of the form changes which refusals have a place of their own.
  const [, redraw] = useState(0);
  const hold = useCallback((id: string, element: HTMLElement | null) => {
    if (element) held.current.set(id, element);
    else held.current.delete(id);
  }, []);
  const claim = useCallback((path: string, id: string, element: () => HTMLElement | null) => {
    const ids = claims.current.get(path) ?? new Map();
    claims.current.set(path, ids.set(id, element));
    redraw((count) => count + 1);
    return () => {
      ids.delete(id);
      if (ids.size === 0) claims.current.delete(path);
    };
  }, []);
  const homeless = (refused?.fields ?? []).filter((entry) => !claims.current.has(entry.field));
  /** The fields of this form that are refused. */
  const refusedFields = () =>
    (refused?.fields ?? []).flatMap((entry) =>
      [...(claims.current.get(entry.field)?.values() ?? [])].flatMap((element) => element() ?? []),
    );
  return { gate: { refused, hold, claim } satisfies Gate, held: held.current, homeless, refusedFields };
}

type Field = { id: string; path: string | undefined; element: () => HTMLElement | null };

/**
 * A field's place in its form. `refusal` is what the server said of its path, until something else is typed;
 * `hold(true)` keeps the form from being sent.
 */
export function useGate({ id, path, element }: Field) {
  const gate = useContext(GateContext);
  const [settled, settle] = useState<Refused | null>(null);
  const claim = gate?.claim;
  const where = useRef(element);
  where.current = element;
  useEffect(() => (path && claim ? claim(path, id, () => where.current()) : undefined), [path, claim, id]);
  const holds = gate?.hold;
  useEffect(() => () => holds?.(id, null), [holds, id]);
  const refused = gate?.refused ?? null;
  const refusal: Refusal | undefined =
    refused && refused !== settled && path ? refused.fields.find((entry) => entry.field === path) : undefined;
  return {
    refusal,
    inForm: gate !== null,
    hold: (on: boolean) => gate?.hold(id, on ? element() : null),
    /** What was refused is being corrected: the word of the server is not true of it any more. */
    retyped: () => refused !== settled && settle(refused),
  };
}
