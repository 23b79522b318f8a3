// The log: what was written by itself and by hand, and a thing's own history.
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { asForm, tokenOf } from "../../api/form";
import { askAgain, at } from "../../api/keys";
import { useOnce } from "../../api/once";

export type Filter = {
  machine_id?: number;
  kind?: string;
  person?: string;
  words?: string;
  since?: string;
  until?: string;
  thing?: string;
  quiet?: boolean;
  removed?: boolean;
};

/** The filter as an address has it: nothing that is empty. */
export const asQuery = (filter: Filter): Filter =>
  Object.fromEntries(
    Object.entries(filter).filter(([, value]) => value !== "" && value !== false && value != null),
  );

export function useLog(filter: Filter) {
  return useInfiniteQuery({
    queryKey: ["log", asQuery(filter)],
    initialPageParam: null as null | { before_on: string; before_id: number },
    queryFn: ({ pageParam, signal }) =>
      answer(
        client.GET("/api/log", { params: { query: { ...asQuery(filter), ...(pageParam ?? {}) } }, signal }),
      ),
    getNextPageParam: (last: Schemas["LogPage"]) => {
      const entry = last.entries.at(-1);
      return last.more && entry ? { before_on: entry.on, before_id: entry.id } : null;
    },
    placeholderData: (before) => before,
  });
}

function useRefreshLog() {
  const queries = useQueryClient();
  return () => askAgain(queries, ["log"]);
}

export function useWriteNote() {
  const refresh = useRefreshLog();
  return useOnce({
    mutationFn: (body: Schemas["LogNoteAsk"]) => answer(client.POST("/api/log", { body })),
    onSuccess: refresh,
  });
}

export function useRemoveNote() {
  const refresh = useRefreshLog();
  return useOnce({
    mutationFn: ({ id, removed }: { id: number; removed: boolean }) =>
      answer(
        client.PUT("/api/log/{entry_id}/removed", { params: { path: { entry_id: id } }, body: { removed } }),
      ),
    onSuccess: refresh,
  });
}

export function useKeepNotePhoto() {
  const refresh = useRefreshLog();
  return useOnce({
    mutationFn: ({ id, file }: { id: number; file: File }) =>
      answer(
        client.POST("/api/log/{entry_id}/photos", {
          params: { path: { entry_id: id } },
          ...asForm<{ token: string; file: string }>({ token: tokenOf(file, "log-entry"), file }),
        }),
      ),
    onSuccess: refresh,
  });
}

export function useLookAtLog(machineId: number) {
  return useOnce({
    mutationFn: (file: File) =>
      answer(
        client.POST("/api/machines/{machine_id}/log/look", {
          params: at(machineId),
          ...asForm<{ file: string }>({ file }),
        }),
      ),
  });
}

type Older = { file: File; mapping: Record<string, string> };
const sent = ({ file, mapping }: Older) =>
  asForm<{ file: string; mapping: string }>({ file, mapping: JSON.stringify(mapping) });

export function useReadOlder(machineId: number) {
  return useOnce({
    mutationFn: (older: Older) =>
      answer(client.POST("/api/machines/{machine_id}/log/read", { params: at(machineId), ...sent(older) })),
  });
}

export function useTakeInLog(machineId: number) {
  const refresh = useRefreshLog();
  return useOnce({
    mutationFn: (older: Older) =>
      answer(
        client.POST("/api/machines/{machine_id}/log/take-in", { params: at(machineId), ...sent(older) }),
      ),
    onSuccess: refresh,
  });
}

export function useHistory(kind: string, id: number) {
  return useQuery({
    queryKey: ["machine", "history", kind, id],
    queryFn: () =>
      answer(
        kind === "pads"
          ? client.GET("/api/pad-sets/{pad_set_id}/history", { params: { path: { pad_set_id: id } } })
          : client.GET("/api/rotor-pairs/{rotor_pair_id}/history", {
              params: { path: { rotor_pair_id: id } },
            }),
      ),
  });
}
