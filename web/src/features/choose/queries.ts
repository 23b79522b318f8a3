// The choice, and the set that is on.
import { keepPreviousData, type QueryClient, useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { send, useAsk, useChange } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";
import { followed } from "../../api/work";
import { noWhatIf, useSettledWhatIf, useWhatIf, whatIfStore } from "../whatif";

export const useFittedSet = (id: number) =>
  useAsk(["machine", id, "set"], "get", "/api/machines/{machine_id}/set", at(id));

export const useFitSet = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/set", at(id), useRefresh(id));

export const useUndoFit = (id: number) =>
  useChange("delete", "/api/machines/{machine_id}/set", at(id), useRefresh(id));

export const useLevers = (id: number) =>
  useAsk(["machine", id, "levers"], "get", "/api/machines/{machine_id}/levers", at(id));

const CANDIDATES = "/api/machines/{machine_id}/candidates";
const candidatesQuery = (id: number, body: Schemas["ChooseAsk"]) => ({
  queryKey: ["machine", id, "candidates", body],
  queryFn: ({ signal }: { signal: AbortSignal }) =>
    followed("candidates", signal, (headers) =>
      send("post", CANDIDATES, { ...at(id, body), headers, signal }),
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
  const query = useAsk(["machine", id, "tried", body], "post", CANDIDATES, at(id, body), {
    enabled: moving && only.length > 0,
    placeholderData: moving ? keepPreviousData : undefined,
  });
  return { ...query, moving };
}

/** Two to four sets under the what-if, once the hand has rested on it. */
export function useCompareSets(id: number, keys: string[], mixed: boolean) {
  const body = { ...useSettledWhatIf(id), keys, mixed };
  const key = ["machine", id, "compare-sets", body];
  return useAsk(key, "post", "/api/machines/{machine_id}/sets/compare", at(id, body), {
    enabled: keys.length > 1,
    placeholderData: keepPreviousData,
  });
}

/** What these columns read at every moment of the duty; asked for once somebody looks at a moment. */
export function useScrub(id: number, keys: string[], mixed: boolean, wanted: boolean) {
  const body = { ...useSettledWhatIf(id), keys, mixed };
  const key = ["machine", id, "scrub", body];
  return useAsk(key, "post", "/api/machines/{machine_id}/sets/scrub", at(id, body), {
    enabled: wanted && keys.length > 0,
    placeholderData: keepPreviousData,
  });
}

/** How likely these sets cross a limit: many runs each, so only once everything else is there. */
export function useChances(id: number, keys: string[], mixed: boolean, ready: boolean, slot: string) {
  const [whatIf] = useWhatIf(id);
  const settled = useSettledWhatIf(id);
  const body = { ...settled, keys, mixed };
  const enabled = ready && keys.length > 0 && settled === whatIf;
  const key = ["machine", id, "chances", body];
  return useAsk(key, "post", "/api/machines/{machine_id}/sets/chances", at(id, body), { enabled, slot });
}

/** What would let a rejected set pass; solved when `asked`. */
export function useWaysOut(id: number, key: string, mixed: boolean, enabled: boolean) {
  const body = { ...useSettledWhatIf(id), key, mixed };
  return useAsk(
    ["machine", id, "ways-out", body],
    "post",
    "/api/machines/{machine_id}/sets/ways-out",
    at(id, body),
    { enabled, slot: `ways-${key}` },
  );
}

/** Which of the catalogue's parts its axles are known to take. */
export const useFits = (id: number) =>
  useAsk(["machine", id, "fits"], "get", "/api/machines/{machine_id}/fits", at(id));

export const useSayFits = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/fits", at(id), useRefresh(id));

export function useFluidChoices(id: number, key: string | null, mixed: boolean) {
  const body = { ...useSettledWhatIf(id), key, mixed };
  return useAsk(["machine", id, "fluids", body], "post", "/api/machines/{machine_id}/fluids", at(id, body), {
    placeholderData: keepPreviousData,
  });
}

export const useFill = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/fluid", at(id), useRefresh(id));

/** What a set costs at the parts counter and when it can be there; asked for on demand. */
export function usePartsOffer(id: number, key: string, mixed: boolean, enabled: boolean) {
  const body = { ...noWhatIf, key, mixed };
  const named = ["machine", id, "parts-offer", key];
  return useAsk(named, "post", "/api/machines/{machine_id}/sets/parts", at(id, body), { enabled });
}
