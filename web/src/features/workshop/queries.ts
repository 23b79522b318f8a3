// Every machine of the workshop.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { asForm } from "../../api/form";
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

/** What is due next over all machines, and what stands in the calendar between two days. */
export function usePlanner(since: string, until: string) {
  return useQuery({
    queryKey: ["planner", since, until],
    queryFn: ({ signal }) =>
      answer(client.GET("/api/workshop/planner", { params: { query: { since, until } }, signal })),
    placeholderData: (before) => before,
  });
}

export function useOwners() {
  return useQuery({ queryKey: ["machines", "owners"], queryFn: () => answer(client.GET("/api/owners")) });
}

/** Give a machine to another owner, with its log. */
export function useHandOver() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: ({ id, owner }: { id: number; owner: string }) =>
      answer(
        client.PUT("/api/machines/{machine_id}/owner", {
          params: { path: { machine_id: id } },
          body: { owner },
        }),
      ),
    onSuccess: () => queries.invalidateQueries(),
  });
}

/** A machine of another workshop, with its log. */
export function useTakeInMachine() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: (file: File) =>
      answer(client.POST("/api/workshop/machine-files", asForm<{ file: string }>({ file }))),
    onSuccess: () => queries.invalidateQueries(),
  });
}

/** A whole workshop, into one that is empty. */
export function useTakeInWorkshop() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: (file: File) =>
      answer(client.POST("/api/workshop/take-in", asForm<{ file: string }>({ file }))),
    onSuccess: () => queries.invalidateQueries(),
  });
}
