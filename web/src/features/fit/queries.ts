// The set that is to go on: whether it does, what is in its boxes, what was measured of its parts.
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";

export type Fit = Schemas["FitOut"];
export type AxleFit = Schemas["AxleCheckOut"];

export function useFit(id: number) {
  return useQuery({
    queryKey: ["machine", id, "fit"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/fit", { params: at(id) })),
  });
}

/** Say which set is to go on, by its key; empty takes that back. */
export type Place = "front_pads" | "rear_pads" | "front_rotors" | "rear_rotors";

export function useIntend(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (key: string) =>
      answer(client.PUT("/api/machines/{machine_id}/intended", { params: at(id), body: { key } })),
    onSuccess: refresh,
  });
}

/** One part of the set that is to go on: two that are picked at the same moment both count. */
export function useIntendPart(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ place, part }: { place: Place; part: string }) =>
      answer(
        client.PUT("/api/machines/{machine_id}/intended/{place}", {
          params: { path: { machine_id: id, place } },
          body: { part },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useCountBox(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["BoxAsk"]) =>
      answer(client.PUT("/api/machines/{machine_id}/box", { params: at(id), body })),
    onSettled: refresh,
  });
}

/** What was measured of a part at hand: it goes before what its number says, on every machine. */
export function useMeasurePart(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["PartMeasureAsk"]) =>
      answer(client.PUT("/api/machines/{machine_id}/part-measure", { params: at(id), body })),
    onSettled: refresh,
  });
}

/** What taking friction material off would cost; asked when somebody opens it. */
export function useLastResort(id: number, key: string, axle: "front" | "rear", open: boolean) {
  return useQuery({
    queryKey: ["machine", id, "fit", "last-resort", key, axle],
    enabled: open,
    queryFn: () =>
      answer(
        client.GET("/api/machines/{machine_id}/fit/last-resort", {
          params: { ...at(id), query: { key, axle } },
        }),
      ),
  });
}
