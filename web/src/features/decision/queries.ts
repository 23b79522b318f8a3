// Decisions that were kept.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { useOnce } from "../../api/once";

const row = (decision_id: number) => ({ path: { decision_id } });

export function useDecisions(id: number) {
  return useQuery({
    queryKey: ["machine", id, "decisions"],
    queryFn: () =>
      answer(client.GET("/api/machines/{machine_id}/decisions", { params: { path: { machine_id: id } } })),
  });
}

export function useDecision(decision: number) {
  return useQuery({
    queryKey: ["decision", decision],
    queryFn: () => answer(client.GET("/api/decisions/{decision_id}", { params: row(decision) })),
  });
}

export function useShared(token: string) {
  return useQuery({
    queryKey: ["shared", token],
    queryFn: () => answer(client.GET("/api/shared/{token}", { params: { path: { token } } })),
    retry: false,
  });
}

/** What has changed of a decision is asked for again, in the list and on its own page. */
function useAgain(id: number) {
  const queries = useQueryClient();
  return () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: ["machine", id, "decisions"] }),
      queries.invalidateQueries({ queryKey: ["decision"] }),
    ]);
}

export function useKeepDecision(id: number) {
  const again = useAgain(id);
  return useOnce({
    mutationFn: (body: Schemas["DecisionAsk"]) =>
      answer(
        client.POST("/api/machines/{machine_id}/decisions", { params: { path: { machine_id: id } }, body }),
      ),
    onSuccess: again,
  });
}

export function useShare(id: number) {
  const again = useAgain(id);
  return useOnce({
    mutationFn: ({ decision, ...body }: { decision: number } & Schemas["SharedAsk"]) =>
      answer(client.PUT("/api/decisions/{decision_id}/shared", { params: row(decision), body })),
    onSuccess: again,
  });
}

export function useRemoveDecision(id: number) {
  const again = useAgain(id);
  return useOnce({
    mutationFn: ({ decision, removed }: { decision: number; removed: boolean }) =>
      answer(
        client.PUT("/api/decisions/{decision_id}/removed", { params: row(decision), body: { removed } }),
      ),
    onSuccess: again,
  });
}
