// What is left of the pads, what was measured, and the shelf.
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";

export function useLife(id: number) {
  return useQuery({
    queryKey: ["machine", id, "life"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/life", { params: at(id) })),
  });
}

/** When the pads of this machine are changed: it stays with the machine. */
export function useChooseSchool(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (school: string) =>
      answer(client.PUT("/api/machines/{machine_id}/school", { params: at(id), body: { school } })),
    onSuccess: refresh,
  });
}

/** Say when what is on was put on. */
export function useDateFitting(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["FittedAsk"]) =>
      answer(client.PUT("/api/machines/{machine_id}/fitted", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useMeasure(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["MeasureAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/measurements", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useRemoveMeasurement(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ row, removed }: { row: number; removed: boolean }) =>
      answer(
        client.PUT("/api/measurements/{measurement_id}/removed", {
          params: { path: { measurement_id: row } },
          body: { removed },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useShelf(machineId: number) {
  return useQuery({
    queryKey: ["machine", machineId, "shelf"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/shelf", { params: at(machineId) })),
  });
}

/** Put something of the shelf on the axle it was on last. */
export function useMount(machineId: number) {
  const refresh = useRefresh(machineId);
  return useOnce({
    mutationFn: ({ id, kind, axle }: Pick<Schemas["ShelfThing"], "id" | "kind" | "axle">) => {
      const params = { path: { machine_id: machineId, thing_id: id } };
      return answer(
        kind === "pads"
          ? client.POST("/api/machines/{machine_id}/shelf/pads/{thing_id}/mount", { params, body: { axle } })
          : client.POST("/api/machines/{machine_id}/shelf/rotors/{thing_id}/mount", {
              params,
              body: { axle },
            }),
      );
    },
    onSuccess: refresh,
  });
}

export function useHoses(machineId: number) {
  return useQuery({
    queryKey: ["machine", machineId, "hoses"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/hoses", { params: at(machineId) })),
  });
}

export function useFitHoses(machineId: number) {
  const refresh = useRefresh(machineId);
  return useOnce({
    mutationFn: (body: Schemas["HosesAsk"]) =>
      answer(client.PUT("/api/machines/{machine_id}/hoses", { params: at(machineId), body })),
    onSuccess: refresh,
  });
}
