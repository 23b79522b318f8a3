// Duties, circuits, recorded runs, inverse questions and calibrations.
import { keepPreviousData } from "@tanstack/react-query";
import { useRef } from "react";
import type { Schemas } from "../../api/client";
import { asForm } from "../../api/form";
import { send, steady, to, useAgain, useAsk, useChange, useRemoval, useSend } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";
import { followed } from "../../api/work";
import { useSettledWhatIf } from "../whatif";

export const useDuties = () => useAsk(["duties"], "get", "/api/duties", {});

export const useChooseDuty = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/duty", at(id), useRefresh(id));

export function useDutyTrace(id: number, duty_id: number | null, until_s: number | null) {
  const path = { machine_id: id, duty_id: duty_id ?? 0 };
  return useAsk(
    ["machine", id, "trace", duty_id, until_s],
    "get",
    "/api/machines/{machine_id}/duties/{duty_id}/trace",
    { params: { path, query: until_s === null ? {} : { until_s } } },
    { enabled: duty_id !== null, placeholderData: keepPreviousData },
  );
}

export const useQuestions = (id: number) =>
  useAsk(["machine", id, "questions"], "get", "/api/machines/{machine_id}/questions", at(id));

/** One inverse question, solved when `asked`. */
export function useAnswer(id: number, question: string, enabled: boolean) {
  const body = { ...useSettledWhatIf(id), question };
  const slot = `answer-${question}`;
  const key = ["machine", id, "answer", body];
  return useAsk(key, "post", "/api/machines/{machine_id}/answer", at(id, body), { enabled, slot });
}

export const useCalibrations = (id: number) =>
  useAsk(["machine", id, "calibrations"], "get", "/api/machines/{machine_id}/calibrations", at(id));

/** A long change that shows how far it is; `stop` ends it. */
function useStoppable<V, T>(
  slot: string,
  ask: (value: V, more: { headers: { "X-Work": string }; signal: AbortSignal }) => Promise<T>,
  then: (found: T, value: V) => unknown,
) {
  const control = useRef<AbortController | null>(null);
  const mutation = useOnce<T, V>({
    mutationFn: (value) => {
      control.current = new AbortController();
      const { signal } = control.current;
      return followed(slot, signal, (headers) => ask(value, { headers, signal }));
    },
    onSuccess: then,
  });
  return { ...mutation, stop: () => control.current?.abort() };
}

/** Fit evidence: tried first, kept on demand. */
export function useCalibrate(id: number) {
  const refresh = useRefresh(id);
  return useStoppable(
    "calibrate",
    (body: Schemas["CalibrationAsk"], more) =>
      send("post", "/api/machines/{machine_id}/calibrations", { ...at(id, body), ...more }),
    (_, body) => (body.keep ? refresh() : undefined),
  );
}

export const useRemoveCalibration = (id: number) =>
  useRemoval("/api/calibrations/{calibration_id}/removed", useRefresh(id));

export const usePyrometer = (machineId: number) =>
  useChange("post", "/api/machines/{machine_id}/pyrometer", at(machineId));

export const useCircuits = () => useAsk(["circuits"], "get", "/api/circuits", {});

/** A duty that is not kept yet, driven by the machine. */
export const useDrive = (id: number, body: Schemas["DutyIn"] | null) =>
  useAsk(
    ["machine", id, "drive", body],
    "post",
    "/api/machines/{machine_id}/drive",
    at(id, body as Schemas["DutyIn"]),
    { ...steady, enabled: body !== null },
  );

/** Duties are the workshop's: what is computed for any machine may change with them. */
const useDutiesChanged = () => useAgain(["duties"], ["circuits"], ["machine"], ["machines"]);

export function useSaveDuty() {
  const changed = useDutiesChanged();
  return useOnce({
    mutationFn: ({ duty_id, body }: { duty_id: number | null; body: Schemas["DutyIn"] }) =>
      duty_id === null
        ? send("post", "/api/duties", { body })
        : send("put", "/api/duties/{duty_id}", to({ duty_id }, body)),
    onSuccess: changed,
  });
}

export const useRemoveDuty = () => useRemoval("/api/duties/{duty_id}/removed", useDutiesChanged());

export function useSaveCircuit() {
  const changed = useDutiesChanged();
  return useOnce({
    mutationFn: ({ circuit_id, body }: { circuit_id: number | null; body: Schemas["CircuitIn"] }) =>
      circuit_id === null
        ? send("post", "/api/circuits", { body })
        : send("put", "/api/circuits/{circuit_id}", to({ circuit_id }, body)),
    onSuccess: changed,
  });
}

export const useLook = () =>
  useSend("post", "/api/runs/look", (file: File) => asForm<{ file: string }>({ file }));

/** What a column of a recorded run holds, and in which unit. */
export type Use = { column: number; role: string; unit: string };

export type Reading = { file: File; uses: Use[]; smoothing: string };

type RunForm = { file: string; uses: string; smoothing: string };
const fieldsOf = ({ file, uses, smoothing }: Reading) => ({ file, uses: JSON.stringify(uses), smoothing });

/** A recorded run read with a mapping; long files show how far they are and can be stopped. */
export function useReadRun(id: number, reading: Reading | null) {
  const { file, uses, smoothing } = reading ?? { file: null, uses: [], smoothing: "auto" };
  const key = ["machine", id, "read-run", file?.name, file?.size, file?.lastModified, uses, smoothing];
  const form = reading === null ? { body: undefined } : asForm<RunForm>(fieldsOf(reading));
  const init = { ...at(id), ...form } as ReturnType<typeof at> & { body: RunForm };
  const options = { enabled: reading !== null, retry: false, slot: "read-run" };
  return useAsk(key, "post", "/api/machines/{machine_id}/runs/read", init, options);
}

export const useKeepRun = () =>
  useStoppable(
    "keep-run",
    ({ name, ...reading }: Reading & { name: string }, more) =>
      send("post", "/api/runs", {
        ...asForm<RunForm & { name: string }>({ ...fieldsOf(reading), name }),
        ...more,
      }),
    useDutiesChanged(),
  );

/** Temperatures recorded with a kept run, as logs a calibration takes, by axle. */
export const useRunTemperatures = (run_id: number | null) =>
  useAsk(
    ["run-temperatures", run_id],
    "get",
    "/api/runs/{run_id}/temperatures",
    to({ run_id: run_id ?? 0 }),
    {
      enabled: run_id !== null,
      staleTime: Number.POSITIVE_INFINITY,
    },
  );

/** The stand-in logger records the machine on a duty and hands over a file, as a real one would. */
export function useLogARun(id: number) {
  return useOnce({
    mutationFn: async (body: Schemas["LoggerAsk"]) => {
      const path = "/api/machines/{machine_id}/logger";
      const blob: unknown = await send("post", path, { ...at(id, body), parseAs: "blob" });
      return new File([blob as Blob], `run.${body.kind}`, { type: "text/plain" });
    },
  });
}
