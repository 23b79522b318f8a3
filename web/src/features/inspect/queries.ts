// Inspections, and the gauge held at a machine.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { asForm, tokenOf } from "../../api/form";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";

export type Inspection = Schemas["InspectionOut"];

export type CellValue = Schemas["CellOut"]["value"];

const of = (inspection_id: number) => ({ path: { inspection_id } });

const key = (id: number) => ["inspection", id];

export function useInspections(machineId: number) {
  return useQuery({
    queryKey: ["machine", machineId, "inspections"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/inspections", { params: at(machineId) })),
  });
}

export function useInspection(id: number | null) {
  return useQuery({
    queryKey: key(id ?? 0),
    enabled: id !== null,
    queryFn: () => answer(client.GET("/api/inspections/{inspection_id}", { params: of(id ?? 0) })),
  });
}

/** Keep what the server says about an inspection, wherever it came from. */
function useKept(machineId: number) {
  const queries = useQueryClient();
  const refresh = useRefresh(machineId);
  return async (found: Inspection) => {
    queries.setQueryData(key(found.id), found);
    await refresh();
  };
}

export function useStartInspection(machineId: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (body: Schemas["HeadIn"]) =>
      answer(client.POST("/api/machines/{machine_id}/inspections", { params: at(machineId), body })),
    onSuccess: kept,
  });
}

export function useChangeHead(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (body: Schemas["HeadIn"]) =>
      answer(client.PUT("/api/inspections/{inspection_id}", { params: of(id), body })),
    onSuccess: kept,
  });
}

export function useFinish(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (finished: boolean) =>
      answer(client.PUT("/api/inspections/{inspection_id}/finished", { params: of(id), body: { finished } })),
    onSuccess: kept,
  });
}

export function useRemoveInspection(machineId: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: ({ id, removed }: { id: number; removed: boolean }) =>
      answer(client.PUT("/api/inspections/{inspection_id}/removed", { params: of(id), body: { removed } })),
    onSuccess: kept,
  });
}

export function useOverrule(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (body: Schemas["OverruleIn"]) =>
      answer(client.PUT("/api/inspections/{inspection_id}/overruled", { params: of(id), body })),
    onSuccess: kept,
  });
}

export function useSymptoms() {
  return useQuery({
    queryKey: ["symptoms"],
    queryFn: () => answer(client.GET("/api/symptoms")),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** Send cells as they are; the outbox decides what and when. */
export function sendCells(id: number, cells: Record<string, Schemas["CellIn"]>) {
  return answer(client.PUT("/api/inspections/{inspection_id}/cells", { params: of(id), body: { cells } }));
}

export function readGauge(id: number, body: Schemas["GaugeAsk"]) {
  return answer(client.POST("/api/inspections/{inspection_id}/gauge", { params: of(id), body }));
}

export function useKeepPhoto(machineId: number, id: number) {
  const queries = useQueryClient();
  const refresh = useRefresh(machineId);
  return useOnce({
    mutationFn: ({ wheel, file }: { wheel: string; file: File }) => {
      const token = tokenOf(file, wheel);
      return answer(
        client.POST("/api/inspections/{inspection_id}/photos", {
          params: of(id),
          ...asForm<{ wheel: string; token: string; file: string }>({ wheel, token, file }),
        }),
      );
    },
    onSuccess: () => Promise.all([queries.invalidateQueries({ queryKey: key(id) }), refresh()]),
  });
}

export function useRemovePhoto(id: number) {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: (photo_id: number) =>
      answer(
        client.PUT("/api/photos/{photo_id}/removed", {
          params: { path: { photo_id } },
          body: { removed: true },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: key(id) }),
  });
}
