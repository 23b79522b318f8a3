import { useRef } from "react";

type Callbacks = { onSuccess?: () => void; onSettled?: () => void };

/**
 * What the page last knew of a value, sent along with a change so that somebody else's is never written away unseen.
 * What was sent and is not answered yet counts as known: two changes of one's own do not clash.
 */
export function useSeen<Value>(now: (path: string) => Value) {
  const sent = useRef(new Map<string, Value>());
  return (path: string, value: Value, onSuccess?: () => void): [Record<string, Value>, Callbacks] => {
    const known = sent.current.get(path);
    const seen = { [path]: known === undefined ? now(path) : known };
    sent.current.set(path, value);
    const settled = () => {
      if (sent.current.get(path) === value) sent.current.delete(path);
    };
    return [seen, { onSuccess, onSettled: settled }];
  };
}
