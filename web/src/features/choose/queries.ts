// The choice, and the set that is on.
import { keepPreviousData, type QueryClient, useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";
import { followed } from "../../api/work";
import { noWhatIf, useSettledWhatIf, useWhatIf, whatIfStore } from "../whatif";

export function useFittedSet(id: number) {
  return useQuery({
    queryKey: ["machine", id, "set"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/set", { params: at(id) })),
  });
}

export function useFitSet(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["FitAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/set", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useUndoFit(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: () => answer(client.DELETE("/api/machines/{machine_id}/set", { params: at(id) })),
    onSuccess: refresh,
  });
}

export function useLevers(id: number) {
  return useQuery({
    queryKey: ["machine", id, "levers"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/levers", { params: at(id) })),
  });
}

const candidatesQuery = (id: number, body: Schemas["ChooseAsk"]) => ({
  queryKey: ["machine", id, "candidates", body],
  queryFn: ({ signal }: { signal: AbortSignal }) =>
    followed("candidates", signal, (headers) =>
      answer(client.POST("/api/machines/{machine_id}/candidates", { params: at(id), body, headers, signal })),
    ),
});

/** Every set the machine takes; while a slider moves, `useTried` answers for the columns that are drawn. */
export function useCandidates(id: number, weights: Schemas["WeightsIO"] | null, mixed: boolean) {
  const body = { ...useSettledWhatIf(id), weights, mixed };
  return useQuery({ ...candidatesQuery(id, body), placeholderData: keepPreviousData });
}

/** Ask for the choice as it will be asked for first, while the page itself is still on its way. */
export function fetchAhead(queries: QueryClient, id: number) {
  const body = { ...(whatIfStore.get()[id] ?? noWhatIf), weights: null, mixed: false };
  void queries.prefetchQuery({ ...candidatesQuery(id, body), retry: false });
}

/** The drawn candidates under the what-if of this very moment. */
export function useTried(id: number, weights: Schemas["WeightsIO"] | null, mixed: boolean, only: string[]) {
  const [whatIf] = useWhatIf(id);
  const moving = useSettledWhatIf(id) !== whatIf;
  const body = { ...whatIf, weights, mixed, only };
  const query = useQuery({
    queryKey: ["machine", id, "tried", body],
    enabled: moving && only.length > 0,
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/candidates", { params: at(id), body, signal })),
    placeholderData: moving ? keepPreviousData : undefined,
  });
  return { ...query, moving };
}

/** Two to four sets under the what-if, once the hand has rested on it. */
export function useCompareSets(id: number, keys: string[], mixed: boolean) {
  const body = { ...useSettledWhatIf(id), keys, mixed };
  return useQuery({
    queryKey: ["machine", id, "compare-sets", body],
    enabled: keys.length > 1,
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/sets/compare", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
  });
}

/** What these columns read at every moment of the duty; asked for once somebody looks at a moment. */
export function useScrub(id: number, keys: string[], mixed: boolean, wanted: boolean) {
  const body = { ...useSettledWhatIf(id), keys, mixed };
  return useQuery({
    queryKey: ["machine", id, "scrub", body],
    enabled: wanted && keys.length > 0,
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/sets/scrub", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
  });
}

/** How likely these sets cross a limit: many runs each, so only once everything else is there. */
export function useChances(id: number, keys: string[], mixed: boolean, ready: boolean, slot: string) {
  const [whatIf] = useWhatIf(id);
  const settled = useSettledWhatIf(id);
  const body = { ...settled, keys, mixed };
  return useQuery({
    queryKey: ["machine", id, "chances", body],
    enabled: ready && keys.length > 0 && settled === whatIf,
    queryFn: ({ signal }) =>
      followed(slot, signal, (headers) =>
        answer(
          client.POST("/api/machines/{machine_id}/sets/chances", { params: at(id), body, headers, signal }),
        ),
      ),
  });
}

/** What would let a rejected set pass; solved when `asked`. */
export function useWaysOut(id: number, key: string, mixed: boolean, asked: boolean) {
  const body = { ...useSettledWhatIf(id), key, mixed };
  return useQuery({
    queryKey: ["machine", id, "ways-out", body],
    enabled: asked,
    queryFn: ({ signal }) =>
      followed(`ways-${key}`, signal, (headers) =>
        answer(
          client.POST("/api/machines/{machine_id}/sets/ways-out", { params: at(id), body, headers, signal }),
        ),
      ),
  });
}

/** Which of the catalogue's parts its axles are known to take. */
export function useFits(id: number) {
  return useQuery({
    queryKey: ["machine", id, "fits"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/fits", { params: at(id) })),
  });
}

export function useSayFits(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["FitsAsk"]) =>
      answer(client.PUT("/api/machines/{machine_id}/fits", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useFluidChoices(id: number, key: string | null, mixed: boolean) {
  const body = { ...useSettledWhatIf(id), key, mixed };
  return useQuery({
    queryKey: ["machine", id, "fluids", body],
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/fluids", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
  });
}

export function useFill(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["FillAsk"]) =>
      answer(client.PUT("/api/machines/{machine_id}/fluid", { params: at(id), body })),
    onSuccess: refresh,
  });
}

/** What a set costs at the parts counter and when it can be there; asked for on demand. */
export function usePartsOffer(id: number, key: string, mixed: boolean, asked: boolean) {
  return useQuery({
    queryKey: ["machine", id, "parts-offer", key],
    enabled: asked,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/machines/{machine_id}/sets/parts", {
          params: at(id),
          body: { ...noWhatIf, key, mixed },
          signal,
        }),
      ),
  });
}
