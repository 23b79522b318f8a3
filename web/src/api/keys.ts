// What is asked again after a change.
import { type QueryClient, type QueryKey, useQueryClient } from "@tanstack/react-query";

/** The address of a machine. */
export const at = (machine_id: number) => ({ path: { machine_id } });

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
