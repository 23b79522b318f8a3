// Questions and changes by their address: what each takes and answers is the contract's.
import { keepPreviousData, type QueryKey, useQuery, useQueryClient } from "@tanstack/react-query";
import type { ClientPathsWithMethod, MaybeOptionalInit, MethodResponse } from "openapi-fetch";
import { answer, client } from "./client";
import { useOnce } from "./once";
import type { paths } from "./schema";
import { followed } from "./work";

type Method = "get" | "post" | "put" | "patch" | "delete";
type At<M extends Method> = ClientPathsWithMethod<typeof client, M>;
type Init<M extends Method, P extends At<M>> = MaybeOptionalInit<paths[P], M>;
// Nothing where an address takes none.
type Body<M extends Method, P extends At<M>, None = void> =
  NonNullable<Init<M, P>> extends { body: infer B } ? B : None;
type Answer<M extends Method, P extends At<M>> = MethodResponse<typeof client, M, P>;

/** What goes to an address: the names in it, and the body. */
export const to = <P, B = undefined>(path: P, body?: B) =>
  ({ params: { path }, body }) as B extends undefined
    ? { params: { path: P } }
    : { params: { path: P }; body: B };

/** A request and its answer; a problem is thrown. */
export function send<M extends Method, P extends At<M>>(
  method: M,
  path: P,
  init: Init<M, P>,
): Promise<Answer<M, P>> {
  // The caller's types are checked above; the client's own overloads cannot follow a method that is not a literal.
  const request = client.request as unknown as (
    method: string,
    path: string,
    init: unknown,
  ) => Promise<{ data?: Answer<M, P>; error?: unknown; response: Response }>;
  return answer(request(method, path, init));
}

/** A question whose last answer stays until the next one is there, and which a refusal ends. */
export const steady = { placeholderData: keepPreviousData, retry: false } as const;

type Asking = {
  enabled?: boolean;
  retry?: boolean;
  staleTime?: number;
  gcTime?: number;
  placeholderData?: typeof keepPreviousData | undefined;
  /** The place on the page that shows how far a long computation is and can stop it. */
  slot?: string;
  /** What is waited for before the question is sent. */
  after?: (signal: AbortSignal) => Promise<void>;
};

/** Ask, keep the answer under a key, and ask again once the key is out of date. */
export function useAsk<M extends "get" | "post", P extends At<M>>(
  queryKey: QueryKey,
  method: M,
  path: P,
  init: Init<M, P>,
  { slot, after, ...options }: Asking = {},
) {
  return useQuery({
    queryKey,
    queryFn: async ({ signal }) => {
      await after?.(signal);
      if (slot === undefined) return send(method, path, { ...init, signal } as Init<M, P>);
      return followed(slot, signal, (headers) =>
        send(method, path, { ...init, headers, signal } as Init<M, P>),
      );
    },
    ...options,
  });
}

/** Send a change once; `then` takes in the answer, `always` also a refusal. */
export function useSend<M extends Exclude<Method, "get">, P extends At<M>, V = void>(
  method: M,
  path: P,
  init: (value: V) => Init<M, P>,
  then?: (found: Answer<M, P>, value: V) => unknown,
  always?: () => unknown,
) {
  return useOnce<Answer<M, P>, V>({
    mutationFn: (value) => send(method, path, init(value)),
    onSuccess: (found, value) => then?.(found, value),
    onSettled: () => always?.(),
  });
}

/** A change of one thing: its body is what the hook is given to send. */
export function useChange<M extends Exclude<Method, "get">, P extends At<M>>(
  method: M,
  path: P,
  where: Pick<NonNullable<Init<M, P>>, "params">,
  then?: (found: Answer<M, P>, body: Body<M, P>) => unknown,
  always?: () => unknown,
) {
  return useSend<M, P, Body<M, P>>(method, path, (body) => ({ ...where, body }) as Init<M, P>, then, always);
}

type Removals = { [P in At<"put">]: P extends `/api/${string}/{${string}}/removed` ? P : never }[At<"put">];

/** One row of several, out of sight or back. */
export function useRemoval<P extends Removals>(path: P, then: (found: Answer<"put", P>) => unknown) {
  const name = /\{(\w+)\}/.exec(path)?.[1] ?? "";
  return useSend<"put", P, { row: number; removed: boolean }>(
    "put",
    path,
    ({ row, removed }) => to({ [name]: row }, { removed }) as unknown as Init<"put", P>,
    then,
  );
}

/** What is listed under these keys is asked for again; without keys all there is. */
export function useAgain(...keys: QueryKey[]) {
  const queries = useQueryClient();
  return () =>
    keys.length === 0
      ? queries.invalidateQueries()
      : Promise.all(keys.map((queryKey) => queries.invalidateQueries({ queryKey })));
}

/** Take in what a change has answered, and ask again for what follows from it. */
export function useTakeIn<T>(keyOf: (found: T) => QueryKey, refresh: () => unknown) {
  const queries = useQueryClient();
  return async (found: T) => {
    queries.setQueryData(keyOf(found), found);
    await refresh();
  };
}
