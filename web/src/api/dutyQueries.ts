// Duties, circuits and recorded runs.
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { answer, client, type Schemas } from "./client";
import { useOnce } from "./once";
import { followed } from "./work";

const at = (machine_id: number) => ({ path: { machine_id } });

export function useCircuits() {
  return useQuery({ queryKey: ["circuits"], queryFn: () => answer(client.GET("/api/circuits")) });
}

/** A duty that is not kept yet, driven by the machine. */
export function useDrive(id: number, body: Schemas["DutyIn"] | null) {
  return useQuery({
    queryKey: ["machine", id, "drive", body],
    enabled: body !== null,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/machines/{machine_id}/drive", {
          params: at(id),
          body: body as Schemas["DutyIn"],
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

/** Duties are the workshop's: what is computed for any machine may change with them. */
function useDutiesChanged() {
  const queries = useQueryClient();
  return () =>
    Promise.all(
      ["duties", "circuits", "machine", "machines"].map((key) =>
        queries.invalidateQueries({ queryKey: [key] }),
      ),
    );
}

export function useSaveDuty() {
  const changed = useDutiesChanged();
  return useOnce({
    mutationFn: ({ duty_id, body }: { duty_id: number | null; body: Schemas["DutyIn"] }) =>
      duty_id === null
        ? answer(client.POST("/api/duties", { body }))
        : answer(client.PUT("/api/duties/{duty_id}", { params: { path: { duty_id } }, body })),
    onSuccess: changed,
  });
}

export function useRemoveDuty() {
  const changed = useDutiesChanged();
  return useOnce({
    mutationFn: ({ duty_id, removed }: { duty_id: number; removed: boolean }) =>
      answer(
        client.PUT("/api/duties/{duty_id}/removed", { params: { path: { duty_id } }, body: { removed } }),
      ),
    onSuccess: changed,
  });
}

export function useSaveCircuit() {
  const changed = useDutiesChanged();
  return useOnce({
    mutationFn: ({ circuit_id, body }: { circuit_id: number | null; body: Schemas["CircuitIn"] }) =>
      circuit_id === null
        ? answer(client.POST("/api/circuits", { body }))
        : answer(client.PUT("/api/circuits/{circuit_id}", { params: { path: { circuit_id } }, body })),
    onSuccess: changed,
  });
}

const form = (parts: Record<string, string | Blob>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(parts)) data.append(name, value);
  return data;
};
// The schema knows the parts of a form as strings; what is sent is the form itself.
const sent = <T>(parts: Record<string, string | Blob>) => ({
  body: parts as T,
  bodySerializer: () => form(parts),
});

export function useLook() {
  return useOnce({
    mutationFn: (file: File) => answer(client.POST("/api/runs/look", sent<{ file: string }>({ file }))),
  });
}

/** What a column of a recorded run holds, and in which unit. */
export type Use = { column: number; role: string; unit: string };
export type Reading = { file: File; uses: Use[]; smoothing: string };

/** A recorded run read with a mapping; long files show how far they are and can be stopped. */
export function useReadRun(id: number, reading: Reading | null) {
  const { file, uses, smoothing } = reading ?? { file: null, uses: [], smoothing: "auto" };
  return useQuery({
    queryKey: ["machine", id, "read-run", file?.name, file?.size, file?.lastModified, uses, smoothing],
    enabled: file !== null,
    retry: false,
    queryFn: ({ signal }) =>
      followed("read-run", signal, (headers) =>
        answer(
          client.POST("/api/machines/{machine_id}/runs/read", {
            params: at(id),
            headers,
            signal,
            ...sent<{ file: string; uses: string; smoothing: string }>({
              file: file as File,
              uses: JSON.stringify(uses),
              smoothing,
            }),
          }),
        ),
      ),
  });
}

export function useKeepRun() {
  const changed = useDutiesChanged();
  const control = useRef<AbortController | null>(null);
  const mutation = useOnce({
    mutationFn: ({ file, uses, smoothing, name }: Reading & { name: string }) => {
      control.current = new AbortController();
      const { signal } = control.current;
      return followed("keep-run", signal, (headers) =>
        answer(
          client.POST("/api/runs", {
            headers,
            signal,
            ...sent<{ file: string; uses: string; smoothing: string; name: string }>({
              file,
              uses: JSON.stringify(uses),
              smoothing,
              name,
            }),
          }),
        ),
      );
    },
    onSuccess: changed,
  });
  return { ...mutation, stop: () => control.current?.abort() };
}

/** Temperatures recorded with a kept run, as logs a calibration takes, by axle. */
export function useRunTemperatures(run_id: number | null) {
  return useQuery({
    queryKey: ["run-temperatures", run_id],
    enabled: run_id !== null,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      answer(client.GET("/api/runs/{run_id}/temperatures", { params: { path: { run_id: run_id ?? 0 } } })),
  });
}

/** The stand-in logger records the machine on a duty and hands over a file, as a real one would. */
export function useLogARun(id: number) {
  return useOnce({
    mutationFn: async (body: Schemas["LoggerAsk"]) => {
      const blob = await answer(
        client.POST("/api/machines/{machine_id}/logger", { params: at(id), body, parseAs: "blob" }),
      );
      return new File([blob as unknown as Blob], `run.${body.kind}`, { type: "text/plain" });
    },
  });
}
