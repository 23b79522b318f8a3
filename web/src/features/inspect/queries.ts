// Inspections, and the gauge held at a machine.
import type { Schemas } from "../../api/client";
import { asForm, tokenOf } from "../../api/form";
import { send, to, useAgain, useAsk, useChange, useRemoval, useSend, useTakeIn } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";

export type Inspection = Schemas["InspectionOut"];

export type CellValue = Schemas["CellOut"]["value"];

const of = <B = undefined>(inspection_id: number, body?: B) => to({ inspection_id }, body);

const key = (id: number) => ["inspection", id];

export const useInspections = (machineId: number) =>
  useAsk(
    ["machine", machineId, "inspections"],
    "get",
    "/api/machines/{machine_id}/inspections",
    at(machineId),
  );

export const useInspection = (id: number | null) =>
  useAsk(key(id ?? 0), "get", "/api/inspections/{inspection_id}", of(id ?? 0), { enabled: id !== null });

/** Keep what the server says about an inspection, wherever it came from. */
const useKept = (machineId: number) => useTakeIn((found: Inspection) => key(found.id), useRefresh(machineId));

export const useStartInspection = (machineId: number) =>
  useChange("post", "/api/machines/{machine_id}/inspections", at(machineId), useKept(machineId));

export const useChangeHead = (machineId: number, id: number) =>
  useChange("put", "/api/inspections/{inspection_id}", of(id), useKept(machineId));

export const useFinish = (machineId: number, id: number) =>
  useChange("put", "/api/inspections/{inspection_id}/finished", of(id), useKept(machineId));

export const useRemoveInspection = (machineId: number) =>
  useRemoval("/api/inspections/{inspection_id}/removed", useKept(machineId));

export const useOverrule = (machineId: number, id: number) =>
  useChange("put", "/api/inspections/{inspection_id}/overruled", of(id), useKept(machineId));

export const useSymptoms = () =>
  useAsk(["symptoms"], "get", "/api/symptoms", {}, { staleTime: Number.POSITIVE_INFINITY });

/** Send cells as they are; the outbox decides what and when. */
export const sendCells = (id: number, cells: Record<string, Schemas["CellIn"]>) =>
  send("put", "/api/inspections/{inspection_id}/cells", of(id, { cells }));

export const readGauge = (id: number, body: Schemas["GaugeAsk"]) =>
  send("post", "/api/inspections/{inspection_id}/gauge", of(id, body));

export function useKeepPhoto(machineId: number, id: number) {
  const again = useAgain(key(id));
  const refresh = useRefresh(machineId);
  return useSend(
    "post",
    "/api/inspections/{inspection_id}/photos",
    ({ wheel, file }: { wheel: string; file: File }) => ({
      ...of(id),
      ...asForm<{ wheel: string; token: string; file: string }>({ wheel, token: tokenOf(file, wheel), file }),
    }),
    () => Promise.all([again(), refresh()]),
  );
}

export const useRemovePhoto = (id: number) =>
  useSend(
    "put",
    "/api/photos/{photo_id}/removed",
    (photo_id: number) => to({ photo_id }, { removed: true }),
    useAgain(key(id)),
  );
