// Bedding: schools, kept plans, runs, whether it worked.
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";

export type Road = Schemas["RoadAsk"];
export type Plan = Schemas["PlanOut"];
export type Item = Schemas["ItemOut"];
export type Run = Schemas["BedRunOut"];
export type Event = Schemas["EventIn"];
export type Row = Schemas["RowIO"];
export type BedState = Schemas["BedStateOut"];

const of = (plan_id: number) => ({ path: { plan_id } });
const ofRun = (bedding_run_id: number) => ({ path: { bedding_run_id } });
export const runKey = (id: number) => ["bedding-run", id];
const LOOK_AGAIN_MS = 4000;

export function useBedding(id: number, body: Road) {
  return useQuery({
    queryKey: ["machine", id, "bedding", body],
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/bedding", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useBeddingCurve(id: number, body: Schemas["BeddingAsk"], wanted: boolean) {
  return useQuery({
    queryKey: ["machine", id, "bedding-curve", body],
    enabled: wanted,
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/bedding/curve", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useKeepMakersRows(id: number, pad_id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["MakersAsk"]) =>
      answer(client.PUT("/api/pads/{pad_id}/makers-rows", { params: { path: { pad_id } }, body })),
    onSuccess: refresh,
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
    queryFn: () => answer(client.GET("/api/plans/{plan_id}", { params: of(plan ?? 0) })),
  });
}

export function useRemovePlan(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ plan, removed }: { plan: number; removed: boolean }) =>
      answer(client.PUT("/api/plans/{plan_id}/removed", { params: of(plan), body: { removed } })),
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
      answer(client.PUT("/api/plans/{plan_id}/done", { params: of(plan), body: { done } })),
    onSuccess: refresh,
  });
}

// --- the run -------------------------------------------------------------------------------------------------------

export function useStartRun(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ plan, token }: { plan: number; token: string }) =>
      answer(client.POST("/api/plans/{plan_id}/runs", { params: of(plan), body: { token } })),
    onSuccess: refresh,
  });
}

export function useRun(id: number) {
  return useQuery({
    queryKey: runKey(id),
    queryFn: () => answer(client.GET("/api/bedding-runs/{bedding_run_id}", { params: ofRun(id) })),
    // Somebody watches on a desk what is said in the car.
    refetchInterval: (query) => (query.state.data?.ended_at ? false : LOOK_AGAIN_MS),
  });
}

export const sendEvents = (id: number, events: Event[]) =>
  answer(client.PUT("/api/bedding-runs/{bedding_run_id}/events", { params: ofRun(id), body: { events } }));

export function useEndRun(id: number, machineId: number) {
  const queries = useQueryClient();
  const refresh = useRefresh(machineId);
  return useOnce({
    mutationFn: () => answer(client.PUT("/api/bedding-runs/{bedding_run_id}/ended", { params: ofRun(id) })),
    onSuccess: async (run) => {
      queries.setQueryData(runKey(id), run);
      await refresh();
    },
  });
}

export function useHoldPyrometer(id: number) {
  return useOnce({
    mutationFn: (body: Schemas["HoldAsk"]) =>
      answer(client.POST("/api/bedding-runs/{bedding_run_id}/pyrometer", { params: ofRun(id), body })),
  });
}

// --- did it work ---------------------------------------------------------------------------------------------------

export function useBedded(id: number) {
  return useQuery({
    queryKey: ["machine", id, "bedded"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/bedded", { params: at(id) })),
  });
}

export function useRecordedRuns() {
  return useQuery({ queryKey: ["runs"], queryFn: () => answer(client.GET("/api/runs")) });
}

export function useProve(id: number, run_id: number | null) {
  return useQuery({
    queryKey: ["machine", id, "bedding-proof", run_id],
    enabled: run_id !== null,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/machines/{machine_id}/bedding/proof", {
          params: at(id),
          body: { run_id: run_id ?? 0 },
          signal,
        }),
      ),
    retry: false,
  });
}

export function useKeepProof(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["KeepProofAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/bedding/proofs", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useLookAtRing(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["LookAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/ring-looks", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useRemoveResult(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ result, removed }: { result: number; removed: boolean }) =>
      answer(
        client.PUT("/api/bedding-results/{bedding_result_id}/removed", {
          params: { path: { bedding_result_id: result } },
          body: { removed },
        }),
      ),
    onSuccess: refresh,
  });
}
