// The log: what was written by itself and by hand, and a thing's own history.
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { asForm, tokenOf } from "../../api/form";
import { send, to, useChange, useRemoval, useSend } from "../../api/hooks";
import { askAgain, at } from "../../api/keys";

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
      send("get", "/api/log", { params: { query: { ...asQuery(filter), ...(pageParam ?? {}) } }, signal }),
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

export const useWriteNote = () => useChange("post", "/api/log", {}, useRefreshLog());

export const useRemoveNote = () => useRemoval("/api/log/{entry_id}/removed", useRefreshLog());

export const useKeepNotePhoto = () =>
  useSend(
    "post",
    "/api/log/{entry_id}/photos",
    ({ id, file }: { id: number; file: File }) => ({
      ...to({ entry_id: id }),
      ...asForm<{ token: string; file: string }>({ token: tokenOf(file, "log-entry"), file }),
    }),
    useRefreshLog(),
  );

export const useLookAtLog = (machineId: number) =>
  useSend("post", "/api/machines/{machine_id}/log/look", (file: File) => ({
    ...at(machineId),
    ...asForm<{ file: string }>({ file }),
  }));

const older =
  (machineId: number) =>
  ({ file, mapping }: { file: File; mapping: Record<string, string> }) => ({
    ...at(machineId),
    ...asForm<{ file: string; mapping: string }>({ file, mapping: JSON.stringify(mapping) }),
  });

export const useReadOlder = (machineId: number) =>
  useSend("post", "/api/machines/{machine_id}/log/read", older(machineId));

export const useTakeInLog = (machineId: number) =>
  useSend("post", "/api/machines/{machine_id}/log/take-in", older(machineId), useRefreshLog());

export function useHistory(kind: string, id: number) {
  return useQuery({
    queryKey: ["machine", "history", kind, id],
    queryFn: () =>
      kind === "pads"
        ? send("get", "/api/pad-sets/{pad_set_id}/history", to({ pad_set_id: id }))
        : send("get", "/api/rotor-pairs/{rotor_pair_id}/history", to({ rotor_pair_id: id })),
  });
}
