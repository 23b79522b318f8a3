// Adding, describing, changing, copying and comparing machines.
import { keepPreviousData, useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { steady, to, useAsk, useChange, useRemoval, useSend } from "../../api/hooks";
import { askAgain, at, useRefresh } from "../../api/keys";

type Figures = Record<string, number | null>;

export const useMachine = (id: number) =>
  useAsk(["machine", id, "detail"], "get", "/api/machines/{machine_id}", at(id));

/** Whether it was kept or somebody else was first: what is there now is asked for. */
export const useChangeMachine = (id: number) =>
  useSend(
    "patch",
    "/api/machines/{machine_id}",
    ({ changes, seen }: { changes: Figures; seen: Figures }) => at(id, { changes, left_open: [], seen }),
    undefined,
    useRefresh(id),
  );

/** What follows from measured lengths and weights; asked as soon as all of them are there. */
export const useWorkOut = (method: string, numbers: Numbers | null) =>
  useAsk(
    ["work-out", method, numbers],
    "post",
    "/api/measure/{method}",
    to({ method }, { numbers: numbers ?? {} }),
    {
      enabled: numbers !== null,
      placeholderData: numbers === null ? undefined : keepPreviousData,
      retry: false,
    },
  );

export const useBalance = (id: number, body: Schemas["BalanceAsk"]) =>
  useAsk(
    ["machine", id, "balance", body],
    "post",
    "/api/machines/{machine_id}/balance",
    at(id, body),
    steady,
  );

export type Numbers = Record<string, number | null>;

export const useClasses = () =>
  useAsk(["classes"], "get", "/api/classes", {}, { staleTime: Number.POSITIVE_INFINITY });

export const useFluids = () => useAsk(["fluids"], "get", "/api/fluids", {});

/** What a class says of every number not known yet, fitted to those that are. */
export const useClassEstimates = (name: string | null, known: Numbers) =>
  useAsk(
    ["class-estimates", name, known],
    "post",
    "/api/classes/{name}/estimates",
    to({ name: name ?? "" }, { known }),
    {
      enabled: !!name,
      placeholderData: keepPreviousData,
    },
  );

/** A machine more in the list: everything that lists machines is asked again. */
function useMachineAdded() {
  const queries = useQueryClient();
  return () => askAgain(queries, ["machines"]);
}

export const useAddMachine = () => useChange("post", "/api/workshop/machines", {}, useMachineAdded());

export const useCopyMachine = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/copy", at(id), useMachineAdded());

export const useRemoveMachine = () => useRemoval("/api/machines/{machine_id}/removed", useMachineAdded());

export const useLeaveOpen = (id: number) =>
  useSend(
    "patch",
    "/api/machines/{machine_id}",
    (left_open: string[]) => at(id, { changes: {}, left_open, seen: {} }),
    useRefresh(id),
  );

export const useChangeWords = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/words", at(id), useRefresh(id));

export const useSetMasses = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/masses", at(id), useRefresh(id));

export const useParts = (id: number) =>
  useAsk(["machine", id, "parts"], "get", "/api/machines/{machine_id}/parts", at(id));

export const useChangeParts = (id: number) =>
  useChange("patch", "/api/machines/{machine_id}/parts", at(id), useRefresh(id));

/** How far each estimate moves the answer; asked for when the user wants to know. */
export const useMoves = (id: number, enabled: boolean) =>
  useAsk(["machine", id, "moves"], "get", "/api/machines/{machine_id}/moves", at(id), {
    enabled,
    slot: "moves",
  });

export function useCompare(id: number, changes: Numbers, pedal_force_N: number) {
  const body = { changes, pedal_force_N, rotor_C: 200 };
  return useAsk(
    ["machine", id, "compare", body],
    "post",
    "/api/machines/{machine_id}/compare",
    at(id, body),
    steady,
  );
}

export const useSetUps = (id: number) =>
  useAsk(["machine", id, "set-ups"], "get", "/api/machines/{machine_id}/set-ups", at(id));

export const useKeepSetUp = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/set-ups", at(id), useRefresh(id));

export const useUseSetUp = (id: number) =>
  useSend("post", "/api/set-ups/{set_up_id}/use", (set_up_id: number) => to({ set_up_id }), useRefresh(id));

export const useRemoveSetUp = (id: number) => useRemoval("/api/set-ups/{set_up_id}/removed", useRefresh(id));
