// Bedding: schools, kept plans, runs, whether it worked.
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { send, steady, to, useAsk, useChange, useRemoval, useSend, useTakeIn } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";

export type Road = Schemas["RoadAsk"];
export type Plan = Schemas["PlanOut"];
export type Item = Schemas["ItemOut"];
export type Run = Schemas["BedRunOut"];
export type Event = Schemas["EventIn"];
export type Row = Schemas["RowIO"];
export type BedState = Schemas["BedStateOut"];

export const runKey = (id: number) => ["bedding-run", id];
const LOOK_AGAIN_MS = 4000;

export const useBedding = (id: number, body: Road) =>
  useAsk(
    ["machine", id, "bedding", body],
    "post",
    "/api/machines/{machine_id}/bedding",
    at(id, body),
    steady,
  );

export const useBeddingCurve = (id: number, body: Schemas["BeddingAsk"], enabled: boolean) => {
  const key = ["machine", id, "bedding-curve", body];
  return useAsk(key, "post", "/api/machines/{machine_id}/bedding/curve", at(id, body), {
    ...steady,
    enabled,
  });
};

export const useKeepMakersRows = (id: number, pad_id: number) =>
  useChange("put", "/api/pads/{pad_id}/makers-rows", to({ pad_id }), useRefresh(id));

export const usePlans = (id: number) =>
  useAsk(["machine", id, "plans"], "get", "/api/machines/{machine_id}/plans", at(id));

/** A plan as it was kept. */
export const useKeptPlan = (id: number, plan: number | null) =>
  useAsk(["machine", id, "plans", plan], "get", "/api/plans/{plan_id}", to({ plan_id: plan ?? 0 }), {
    enabled: plan !== null,
  });

export const useRemovePlan = (id: number) => useRemoval("/api/plans/{plan_id}/removed", useRefresh(id));

export const useKeepPlan = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/plans", at(id), useRefresh(id));

export const useMarkDone = (id: number) =>
  useSend(
    "put",
    "/api/plans/{plan_id}/done",
    ({ plan, done }: { plan: number; done: boolean }) => to({ plan_id: plan }, { done }),
    useRefresh(id),
  );

// --- the run -------------------------------------------------------------------------------------------------------

export const useStartRun = (id: number) =>
  useSend(
    "post",
    "/api/plans/{plan_id}/runs",
    ({ plan, token }: { plan: number; token: string }) => to({ plan_id: plan }, { token }),
    useRefresh(id),
  );

export function useRun(id: number) {
  return useQuery({
    queryKey: runKey(id),
    queryFn: () => send("get", "/api/bedding-runs/{bedding_run_id}", to({ bedding_run_id: id })),
    // Somebody watches on a desk what is said in the car.
    refetchInterval: (query) => (query.state.data?.ended_at ? false : LOOK_AGAIN_MS),
  });
}

export const sendEvents = (id: number, events: Event[]) =>
  send("put", "/api/bedding-runs/{bedding_run_id}/events", to({ bedding_run_id: id }, { events }));

export const useEndRun = (id: number, machineId: number) => {
  const takeIn = useTakeIn(() => runKey(id), useRefresh(machineId));
  return useChange("put", "/api/bedding-runs/{bedding_run_id}/ended", to({ bedding_run_id: id }), takeIn);
};

export const useHoldPyrometer = (id: number) =>
  useChange("post", "/api/bedding-runs/{bedding_run_id}/pyrometer", to({ bedding_run_id: id }));

// --- did it work ---------------------------------------------------------------------------------------------------

export const useBedded = (id: number) =>
  useAsk(["machine", id, "bedded"], "get", "/api/machines/{machine_id}/bedded", at(id));

export const useRecordedRuns = () => useAsk(["runs"], "get", "/api/runs", {});

export const useProve = (id: number, run_id: number | null) =>
  useAsk(
    ["machine", id, "bedding-proof", run_id],
    "post",
    "/api/machines/{machine_id}/bedding/proof",
    at(id, { run_id: run_id ?? 0 }),
    { enabled: run_id !== null, retry: false },
  );

export const useKeepProof = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/bedding/proofs", at(id), useRefresh(id));

export const useLookAtRing = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/ring-looks", at(id), useRefresh(id));

export const useRemoveResult = (id: number) =>
  useRemoval("/api/bedding-results/{bedding_result_id}/removed", useRefresh(id));
