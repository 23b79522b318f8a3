// What is left of the pads, what was measured, and the shelf.
import type { Schemas } from "../../api/client";
import { send, useRemoval } from "../../api/hooks";
import { useChangeOf, useOfMachine, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";

export const useLife = (id: number) => useOfMachine("life", id);

/** When the pads of this machine are changed: it stays with the machine. */
export const useChooseSchool = (id: number) => useChangeOf("put", "school", id);

/** Say when what is on was put on. */
export const useDateFitting = (id: number) => useChangeOf("put", "fitted", id);

export const useMeasure = (id: number) => useChangeOf("post", "measurements", id);

export const useRemoveMeasurement = (id: number) =>
  useRemoval("/api/measurements/{measurement_id}/removed", useRefresh(id));

export const useShelf = (id: number) => useOfMachine("shelf", id);

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

export const useHoses = (id: number) => useOfMachine("hoses", id);

export const useFitHoses = (id: number) => useChangeOf("put", "hoses", id);
