import {
  keepPreviousData,
  type QueryClient,
  type QueryKey,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useRef } from "react";
import { clearDrafts, setPerson } from "../lib/store";
import { answer, client, ProblemError, type Schemas } from "./client";
import { useOnce } from "./once";
import { afterOthers } from "./quiet";
import { useSettledWhatIf, useWhatIf } from "./whatIf";
import { followed } from "./work";

type Figures = Record<string, number | null>;
const at = (machine_id: number) => ({ path: { machine_id } });

export function useSession() {
  return useQuery({
    queryKey: ["session"],
    queryFn: async () => {
      try {
        const session = await answer(client.GET("/api/session"));
        setPerson(session.user);
        return session;
      } catch (error) {
        if (error instanceof ProblemError && error.problem.status === 401) setPerson(null);
        throw error;
      }
    },
    retry: false,
  });
}

/** Every machine with what is due: the frame of the page needs the names, but not before the stage has its answer. */
export function useMachines() {
  const queries = useQueryClient();
  const session = useSession();
  return useQuery({
    queryKey: ["machines"],
    enabled: session.data !== undefined,
    queryFn: async ({ signal }) => {
      await afterOthers(queries, ["candidates"], signal);
      return answer(client.GET("/api/machines", { signal }));
    },
  });
}

/** Every machine with its verdict, in one answer. */
export function useOverview() {
  return useQuery({
    queryKey: ["machines", "overview"],
    queryFn: ({ signal }) => answer(client.GET("/api/workshop/overview", { signal })),
  });
}

export function useMachine(id: number) {
  return useQuery({
    queryKey: ["machine", id, "detail"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}", { params: at(id) })),
  });
}

export function useVerdict(id: number) {
  const [whatIf] = useWhatIf(id);
  const queries = useQueryClient();
  return useQuery({
    queryKey: ["machine", id, "verdict", whatIf],
    queryFn: async ({ signal }) => {
      await afterOthers(queries, ["tried"], signal);
      return answer(
        client.POST("/api/machines/{machine_id}/verdict", { params: at(id), body: whatIf, signal }),
      );
    },
    placeholderData: keepPreviousData,
  });
}

/** Ask again for everything under a key: also for what is asked for the first time just now, as of before the change. */
export async function askAgain(queries: QueryClient, queryKey: QueryKey): Promise<void> {
  await queries.cancelQueries({ queryKey });
  await queries.invalidateQueries({ queryKey });
}

/** After anything about a machine is saved, everything computed from it is asked for again. */
export function useRefresh(id: number) {
  const queries = useQueryClient();
  return () => Promise.all([askAgain(queries, ["machine", id]), askAgain(queries, ["machines"])]);
}

export function useChangeMachine(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ changes, seen }: { changes: Figures; seen: Figures }) =>
      answer(
        client.PATCH("/api/machines/{machine_id}", {
          params: at(id),
          body: { changes, left_open: [], seen },
        }),
      ),
    // Whether it was kept or somebody else was first: what is there now is asked for.
    onSettled: refresh,
  });
}

/** What follows from measured lengths and weights; asked as soon as all of them are there. */
export function useWorkOut(method: string, numbers: Record<string, number | null> | null) {
  return useQuery({
    queryKey: ["work-out", method, numbers],
    enabled: numbers !== null,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/measure/{method}", {
          params: { path: { method } },
          body: { numbers: numbers ?? {} },
          signal,
        }),
      ),
    placeholderData: numbers === null ? undefined : keepPreviousData,
    retry: false,
  });
}

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

export function useBalance(id: number, body: Schemas["BalanceAsk"]) {
  return useQuery({
    queryKey: ["machine", id, "balance", body],
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/balance", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

/** How sure the five readings are; asked for once the sliders rest, and nothing while they move. */
export function useRanges(id: number, ready: boolean): Schemas["RangesOut"] | undefined {
  const [whatIf] = useWhatIf(id);
  const body = useSettledWhatIf(id);
  const queries = useQueryClient();
  const query = useQuery({
    queryKey: ["machine", id, "ranges", body],
    enabled: ready,
    queryFn: async ({ signal }) => {
      await afterOthers(queries, ["candidates"], signal);
      return followed("ranges", signal, (headers) =>
        answer(client.POST("/api/machines/{machine_id}/ranges", { params: at(id), body, headers, signal })),
      );
    },
  });
  return body === whatIf ? query.data : undefined;
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

export function useBedding(id: number, body: Schemas["BeddingAsk"]) {
  return useQuery({
    queryKey: ["machine", id, "bedding", body],
    queryFn: ({ signal }) =>
      answer(client.POST("/api/machines/{machine_id}/bedding", { params: at(id), body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function usePlans(id: number) {
  return useQuery({
    queryKey: ["machine", id, "plans"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/plans", { params: at(id) })),
  });
}

export function useKeepPlan(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["BeddingAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/plans", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useMarkDone(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ plan, done }: { plan: number; done: boolean }) =>
      answer(
        client.PUT("/api/plans/{plan_id}/done", { params: { path: { plan_id: plan } }, body: { done } }),
      ),
    onSuccess: refresh,
  });
}

export function useLife(id: number, school: string | null) {
  return useQuery({
    queryKey: ["machine", id, "life", school],
    queryFn: () =>
      answer(
        client.GET("/api/machines/{machine_id}/life", {
          params: { ...at(id), query: school ? { school } : {} },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

export function useMeasure(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["MeasureAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/measurements", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useRemoveMeasurement(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ row, removed }: { row: number; removed: boolean }) =>
      answer(
        client.PUT("/api/measurements/{measurement_id}/removed", {
          params: { path: { measurement_id: row } },
          body: { removed },
        }),
      ),
    onSuccess: refresh,
  });
}

export function useSignIn() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: (body: Schemas["SignIn"]) => answer(client.POST("/api/session", { body })),
    // What whoever sat here before had on the page is not shown while one's own is on its way.
    onSuccess: () => queries.resetQueries(),
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: () => answer(client.DELETE("/api/session")),
    onSuccess: () => {
      clearDrafts();
      // What was looked at is not left in the page's memory either.
      queries.clear();
      location.assign("/");
    },
  });
}

/** Another password; every other session of the person ends. */
export function useChangePassword() {
  return useOnce({
    mutationFn: (body: Schemas["NewPassword"]) => answer(client.PUT("/api/session/password", { body })),
  });
}
