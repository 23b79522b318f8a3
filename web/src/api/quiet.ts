import type { QueryClient, QueryKey } from "@tanstack/react-query";

/** Whether a question is one of these about a machine. */
const about = (names: string[]) => ({
  predicate: ({ queryKey }: { queryKey: QueryKey }) =>
    queryKey[0] === "machine" && names.includes(String(queryKey[2])),
});

/** Wait until none of these questions is on its way: two at once on the same cores only slow each other down. */
export async function afterOthers(queries: QueryClient, names: string[], signal: AbortSignal): Promise<void> {
  // The others ask in the same turn, perhaps after us.
  await new Promise((resolve) => setTimeout(resolve));
  const busy = () => queries.isFetching(about(names)) > 0;
  if (!busy() || signal.aborted) return;
  await new Promise<void>((resolve) => {
    const leave = queries.getQueryCache().subscribe(() => {
      if (busy()) return;
      leave();
      resolve();
    });
    signal.addEventListener("abort", () => {
      leave();
      resolve();
    });
  });
}
