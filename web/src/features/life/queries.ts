// What is left of the pads, what was measured, and the shelf.
import type { Schemas } from "../../api/client";
import { send, useAsk, useChange, useRemoval } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";

export const useLife = (id: number) =>
  useAsk(["machine", id, "life"], "get", "/api/machines/{machine_id}/life", at(id));

/** When the pads of this machine are changed: it stays with the machine. */
export const useChooseSchool = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/school", at(id), useRefresh(id));

/** Say when what is on was put on. */
export const useDateFitting = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/fitted", at(id), useRefresh(id));

export const useMeasure = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/measurements", at(id), useRefresh(id));

export const useRemoveMeasurement = (id: number) =>
  useRemoval("/api/measurements/{measurement_id}/removed", useRefresh(id));

export const useShelf = (id: number) =>
  useAsk(["machine", id, "shelf"], "get", "/api/machines/{machine_id}/shelf", at(id));

/** Put something of the shelf on the axle it was on last. */
export function useMount(machine_id: number) {
  const refresh = useRefresh(machine_id);
  return useOnce({
    mutationFn: ({ id, kind, axle }: Pick<Schemas["ShelfThing"], "id" | "kind" | "axle">) => {
      const what = { params: { path: { machine_id, thing_id: id } }, body: { axle } };
      return kind === "pads"
        ? send("post", "/api/machines/{machine_id}/shelf/pads/{thing_id}/mount", what)
        : send("post", "/api/machines/{machine_id}/shelf/rotors/{thing_id}/mount", what);
    },
    onSuccess: refresh,
  });
}

export const useHoses = (id: number) =>
  useAsk(["machine", id, "hoses"], "get", "/api/machines/{machine_id}/hoses", at(id));

export const useFitHoses = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/hoses", at(id), useRefresh(id));
