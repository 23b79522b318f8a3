// Every machine of the workshop.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useOnce } from "../../api/once";
import { afterOthers } from "../../api/quiet";
import { useSession } from "../session/queries";

/** Every machine with what is due: the frame of the page needs the names, but not before the stage has its answer. */
export function useMachines() {
  const queries = useQueryClient();
  const session = useSession();
  return useQuery({
    queryKey: ["machines"],
    enabled: session.data !== undefined,
    queryFn: async ({ signal }) => {
      await afterOthers(queries, ["candidates"], signal);
      return answer(client.GET("/api/machines", { signal }));
    },
  });
}

/** Every machine with its verdict, in one answer. */
export function useOverview() {
  return useQuery({
    queryKey: ["machines", "overview"],
    queryFn: ({ signal }) => answer(client.GET("/api/workshop/overview", { signal })),
  });
}

/** A machine to try things on, into a workshop that has none. */
export function useDemoMachine() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: () => answer(client.POST("/api/workshop/demo-machine")),
    onSuccess: () => queries.invalidateQueries(),
  });
}

export function useImportCase() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: (document: Record<string, unknown>) => answer(client.POST("/api/cases", { body: document })),
    onSuccess: () => queries.invalidateQueries(),
  });
}
