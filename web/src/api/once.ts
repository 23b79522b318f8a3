// Changes that are sent once: a second Enter or a double click may come before the button is off.
import {
  type UseMutateFunction,
  type UseMutationOptions,
  type UseMutationResult,
  useMutation,
} from "@tanstack/react-query";
import { useCallback, useRef } from "react";

// As JSON any two files would look the same.
const fileAsWords = (_: string, value: unknown) =>
  value instanceof File ? `${value.name} ${value.size} ${value.lastModified}` : value;
const key = (variables: unknown) => JSON.stringify([variables], fileAsWords);

/** A mutation that is not sent again with the content it was sent with last, until that is answered and taken in. */
export function useOnce<Data, Variables = void>(
  options: UseMutationOptions<Data, Error, Variables>,
): UseMutationResult<Data, Error, Variables> {
  // Only the last one counts: there and back and there again are three changes.
  const last = useRef<string | null>(null);
  const mutation = useMutation<Data, Error, Variables>({
    ...options,
    onSettled: (...settled) => {
      if (last.current === key(settled[2])) last.current = null;
      return options.onSettled?.(...settled);
    },
  });
  const send = mutation.mutate;
  const mutate: UseMutateFunction<Data, Error, Variables> = useCallback(
    (...asked) => {
      if (last.current === key(asked[0])) return;
      last.current = key(asked[0]);
      send(...asked);
    },
    [send],
  );
  return { ...mutation, mutate };
}
