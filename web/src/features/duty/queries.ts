// Duties, circuits, recorded runs, inverse questions and calibrations.
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { asForm } from "../../api/form";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";
import { followed } from "../../api/work";
import { useSettledWhatIf } from "../whatif";

export function useDuties() {
  return useQuery({ queryKey: ["duties"], queryFn: () => answer(client.GET("/api/duties")) });
}

export function useChooseDuty(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (duty_id: number) =>
      answer(client.PUT("/api/machines/{machine_id}/duty", { params: at(id), body: { duty_id } })),
    onSuccess: refresh,
  });
}

export function useDutyTrace(id: number, dutyId: number | null, until_s: number | null) {
  return useQuery({
    queryKey: ["machine", id, "trace", dutyId, until_s],
    enabled: dutyId !== null,
    queryFn: ({ signal }) =>
      answer(
        client.GET("/api/machines/{machine_id}/duties/{duty_id}/trace", {
          params: {
            path: { machine_id: id, duty_id: dutyId ?? 0 },
            query: until_s === null ? {} : { until_s },
          },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function useQuestions(id: number) {
  return useQuery({
    queryKey: ["machine", id, "questions"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/questions", { params: at(id) })),
  });
}

/** One inverse question, solved when `asked`. */
export function useAnswer(id: number, question: string, asked: boolean) {
  const body = { ...useSettledWhatIf(id), question };
  return useQuery({
    queryKey: ["machine", id, "answer", body],
    enabled: asked,
    queryFn: ({ signal }) =>
      followed(`answer-${question}`, signal, (headers) =>
        answer(client.POST("/api/machines/{machine_id}/answer", { params: at(id), body, headers, signal })),
      ),
  });
}

export function useCalibrations(id: number) {
  return useQuery({
    queryKey: ["machine", id, "calibrations"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/calibrations", { params: at(id) })),
  });
}

/** Fit evidence: tried first, kept on demand. `stop` ends a fit that takes too long. */
export function useCalibrate(id: number) {
  const refresh = useRefresh(id);
  const control = useRef<AbortController | null>(null);
  const mutation = useOnce({
    mutationFn: (body: Schemas["CalibrationAsk"]) => {
      control.current = new AbortController();
      const { signal } = control.current;
      return followed("calibrate", signal, (headers) =>
        answer(
          client.POST("/api/machines/{machine_id}/calibrations", { params: at(id), body, headers, signal }),
        ),
      );
    },
    onSuccess: (_, body) => (body.keep ? refresh() : undefined),
  });
  return { ...mutation, stop: () => control.current?.abort() };
}

export function useRemoveCalibration(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ row, removed }: { row: number; removed: boolean }) =>
      answer(
        client.PUT("/api/calibrations/{calibration_id}/removed", {
          params: { path: { calibration_id: row } },
          body: { removed },
        }),
      ),
    onSuccess: refresh,
  });
}

export function usePyrometer(machineId: number) {
  return useOnce({
    mutationFn: (body: Schemas["PyrometerAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/pyrometer", { params: at(machineId), body })),
  });
}

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

export function useLook() {
  return useOnce({
    mutationFn: (file: File) => answer(client.POST("/api/runs/look", asForm<{ file: string }>({ file }))),
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
            ...asForm<{ file: string; uses: string; smoothing: string }>({
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
            ...asForm<{ file: string; uses: string; smoothing: string; name: string }>({
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
