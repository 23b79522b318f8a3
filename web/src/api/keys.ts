// What is asked again after a change.
import { type QueryClient, type QueryKey, useQueryClient } from "@tanstack/react-query";
import { type Init, type NamesOf, type OfMachine, to, useAsk, useChange, type Where } from "./hooks";

/** What goes to the address of a machine. */
export const at = <B = undefined>(machine_id: number, body?: B) => to({ machine_id }, body);

/** Ask again for everything under a key: also for what is asked for the first time just now, as of before the change. */
export async function askAgain(queries: QueryClient, queryKey: QueryKey): Promise<void> {
  await queries.cancelQueries({ queryKey });
  await queries.invalidateQueries({ queryKey });
}

/** After anything about a machine is saved, everything computed from it is asked for again. */
export function useRefresh(id: number) {
  const queries = useQueryClient();
  return () => Promise.all([askAgain(queries, ["machine", id]), askAgain(queries, ["machines"])]);
}

/** What is asked of a machine, by the end of its address: kept under that name with the machine. */
export const useOfMachine = <N extends NamesOf<"get">>(name: N, id: number) =>
  useAsk<"get", OfMachine<"get", N>>(
    ["machine", id, name],
    "get",
    `/api/machines/{machine_id}/${name}` as OfMachine<"get", N>,
    at(id) as unknown as Init<"get", OfMachine<"get", N>>,
  );

/** A change of a machine, by the end of its address; everything computed from the machine is asked for again. */
export const useChangeOf = <M extends "post" | "put" | "patch" | "delete", N extends NamesOf<M>>(
  method: M,
  name: N,
  id: number,
) =>
  useChange<M, OfMachine<M, N>>(
    method,
    `/api/machines/{machine_id}/${name}` as OfMachine<M, N>,
    at(id) as unknown as Where<M, OfMachine<M, N>>,
    useRefresh(id),
  );
