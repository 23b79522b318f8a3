// What is asked again after a change.
import { type QueryClient, type QueryKey, useQueryClient } from "@tanstack/react-query";
import { to } from "./hooks";

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
