// Bedding plans.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";

export function useBedding(id: number, body: Schemas["BeddingAsk"]) {
  return useQuery({
    queryKey: ["machine", id, "bedding", body],
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/bedding", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function usePlans(id: number) {
  return useQuery({
    queryKey: ["machine", id, "plans"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/plans", { params: at(id) })),
  });
}

/** A plan as it was kept. */
export function useKeptPlan(id: number, plan: number | null) {
  return useQuery({
    queryKey: ["machine", id, "plans", plan],
    enabled: plan !== null,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}", { params: { path: { plan_id: plan ?? 0 } } })),
  });
}

export function useRemovePlan(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ plan, removed }: { plan: number; removed: boolean }) =>
      answer(
        client.PUT("/api/plans/{plan_id}/removed", {
          params: { path: { plan_id: plan } },
          body: { removed },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useKeepPlan(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["BeddingAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/plans", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useMarkDone(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ plan, done }: { plan: number; done: boolean }) =>
      answer(
        client.PUT("/api/plans/{plan_id}/done", { params: { path: { plan_id: plan } }, body: { done } }),
      ),
    onSuccess: refresh,
  });
}
