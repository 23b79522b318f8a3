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
