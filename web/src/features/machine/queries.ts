// Adding, describing, changing, copying and comparing machines.
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { askAgain, at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";
import { followed } from "../../api/work";

type Figures = Record<string, number | null>;

export function useMachine(id: number) {
  return useQuery({
    queryKey: ["machine", id, "detail"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}", { params: at(id) })),
  });
}

export function useChangeMachine(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ changes, seen }: { changes: Figures; seen: Figures }) =>
      answer(
        client.PATCH("/api/machines/{machine_id}", {
          params: at(id),
          body: { changes, left_open: [], seen },
        }),
      ),
    // Whether it was kept or somebody else was first: what is there now is asked for.
    onSettled: refresh,
  });
}

/** What follows from measured lengths and weights; asked as soon as all of them are there. */
export function useWorkOut(method: string, numbers: Record<string, number | null> | null) {
  return useQuery({
    queryKey: ["work-out", method, numbers],
    enabled: numbers !== null,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/measure/{method}", {
          params: { path: { method } },
          body: { numbers: numbers ?? {} },
          signal,
        }),
      ),
    placeholderData: numbers === null ? undefined : keepPreviousData,
    retry: false,
  });
}

export function useBalance(id: number, body: Schemas["BalanceAsk"]) {
  return useQuery({
    queryKey: ["machine", id, "balance", body],
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/balance", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export type Numbers = Record<string, number | null>;

type Words = Record<string, string>;

type PartNumbers = Record<string, number | string>;

export function useClasses() {
  return useQuery({
    queryKey: ["classes"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/classes")),
  });
}

export function useFluids() {
  return useQuery({ queryKey: ["fluids"], queryFn: () => answer(client.GET("/api/fluids")) });
}

/** What a class says of every number not known yet, fitted to those that are. */
export function useClassEstimates(name: string | null, known: Numbers) {
  return useQuery({
    queryKey: ["class-estimates", name, known],
    enabled: !!name,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/classes/{name}/estimates", {
          params: { path: { name: name ?? "" } },
          body: { known },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** A machine more in the list: everything that lists machines is asked again. */
function useMachineAdded() {
  const queries = useQueryClient();
  return () => askAgain(queries, ["machines"]);
}

export function useAddMachine() {
  const added = useMachineAdded();
  return useOnce({
    mutationFn: (body: Schemas["MachineIn"]) => answer(client.POST("/api/workshop/machines", { body })),
    onSuccess: added,
  });
}

export function useCopyMachine(id: number) {
  const added = useMachineAdded();
  return useOnce({
    mutationFn: (name: string) =>
      answer(client.POST("/api/machines/{machine_id}/copy", { params: at(id), body: { name } })),
    onSuccess: added,
  });
}

export function useRemoveMachine() {
  const added = useMachineAdded();
  return useOnce({
    mutationFn: ({ id, removed }: { id: number; removed: boolean }) =>
      answer(client.PUT("/api/machines/{machine_id}/removed", { params: at(id), body: { removed } })),
    onSuccess: added,
  });
}

export function useLeaveOpen(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (left_open: string[]) =>
      answer(
        client.PATCH("/api/machines/{machine_id}", {
          params: at(id),
          body: { changes: {}, left_open, seen: {} },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useChangeWords(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ words, seen }: { words: Words; seen: Words }) =>
      answer(client.PUT("/api/machines/{machine_id}/words", { params: at(id), body: { words, seen } })),
    onSuccess: refresh,
  });
}

export function useSetMasses(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (parts: Schemas["MassIO"][]) =>
      answer(client.PUT("/api/machines/{machine_id}/masses", { params: at(id), body: { parts } })),
    onSuccess: refresh,
  });
}

export function useParts(id: number) {
  return useQuery({
    queryKey: ["machine", id, "parts"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/parts", { params: at(id) })),
  });
}

export function useChangeParts(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ changes, seen }: { changes: PartNumbers; seen: PartNumbers }) =>
      answer(client.PATCH("/api/machines/{machine_id}/parts", { params: at(id), body: { changes, seen } })),
    onSuccess: refresh,
  });
}

/** How far each estimate moves the answer; asked for when the user wants to know. */
export function useMoves(id: number, asked: boolean) {
  return useQuery({
    queryKey: ["machine", id, "moves"],
    enabled: asked,
    queryFn: ({ signal }) =>
      followed("moves", signal, (headers) =>
        answer(client.GET("/api/machines/{machine_id}/moves", { params: at(id), headers, signal })),
      ),
  });
}

export function useCompare(id: number, changes: Numbers, pedal_force_N: number) {
  const body = { changes, pedal_force_N, rotor_C: 200 };
  return useQuery({
    queryKey: ["machine", id, "compare", body],
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/compare", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useSetUps(id: number) {
  return useQuery({
    queryKey: ["machine", id, "set-ups"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/set-ups", { params: at(id) })),
  });
}

export function useKeepSetUp(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["SetUpIn"]) =>
      answer(client.POST("/api/machines/{machine_id}/set-ups", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useUseSetUp(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (set_up_id: number) =>
      answer(client.POST("/api/set-ups/{set_up_id}/use", { params: { path: { set_up_id } } })),
    onSuccess: refresh,
  });
}

export function useRemoveSetUp(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ row, removed }: { row: number; removed: boolean }) =>
      answer(
        client.PUT("/api/set-ups/{set_up_id}/removed", {
          params: { path: { set_up_id: row } },
          body: { removed },
        }),
      ),
    onSuccess: refresh,
  });
}
