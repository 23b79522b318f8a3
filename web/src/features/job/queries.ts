// Jobs: begun, worked through, closed; fasteners; the service tool.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";

export type Job = Schemas["JobOut"];
export type Step = Schemas["StepOut"];
export type Fastener = Schemas["FastenerOut"];
export type Work = Job["work"];

const LOOK_AGAIN_MS = 15_000;

export const jobKey = (id: number) => ["job", id];
const of = (job_id: number) => ({ path: { job_id } });

export function useJobs(machineId: number) {
  return useQuery({
    queryKey: ["machine", machineId, "jobs"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/jobs", { params: at(machineId) })),
  });
}

export function useJob(id: number) {
  return useQuery({
    queryKey: jobKey(id),
    queryFn: () => answer(client.GET("/api/jobs/{job_id}", { params: of(id) })),
    // Somebody else may be ticking the same sheet.
    refetchInterval: (query) => (query.state.data?.closed_at ? false : LOOK_AGAIN_MS),
  });
}

export function useStartJob(machineId: number) {
  const refresh = useRefresh(machineId);
  return useOnce({
    mutationFn: (body: Schemas["StartAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/jobs", { params: at(machineId), body })),
    onSuccess: refresh,
  });
}

/** Take in what a change has answered, and ask again for what follows from it. */
function useKept(machineId: number) {
  const queries = useQueryClient();
  const refresh = useRefresh(machineId);
  return async (job: Job) => {
    queries.setQueryData(jobKey(job.id), job);
    await refresh();
  };
}

export function useChooseOption(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (body: Schemas["OptionAsk"]) =>
      answer(client.PUT("/api/jobs/{job_id}/school", { params: of(id), body })),
    onSuccess: kept,
  });
}

export function useSayCost(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (body: Schemas["CostAsk"]) =>
      answer(client.PUT("/api/jobs/{job_id}/cost", { params: of(id), body })),
    onSuccess: kept,
  });
}

export function useLasting(id: number, open: boolean) {
  return useQuery({
    queryKey: [...jobKey(id), "lasting"],
    enabled: open,
    queryFn: () => answer(client.GET("/api/jobs/{job_id}/lasting", { params: of(id) })),
  });
}

export function useLeftOut(id: number, open: boolean) {
  return useQuery({
    queryKey: [...jobKey(id), "left-out"],
    enabled: open,
    queryFn: () => answer(client.GET("/api/jobs/{job_id}/left-out", { params: of(id) })),
  });
}

export function useWriteNote(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (body: Schemas["NoteAsk"]) =>
      answer(client.PUT("/api/jobs/{job_id}/note", { params: of(id), body })),
    onSuccess: kept,
  });
}

export function useAbandon(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (abandoned: boolean) =>
      answer(client.PUT("/api/jobs/{job_id}/abandoned", { params: of(id), body: { abandoned } })),
    onSuccess: kept,
  });
}

export function useCloseJob(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (body: Schemas["CloseAsk"]) =>
      answer(client.PUT("/api/jobs/{job_id}/closed", { params: of(id), body })),
    onSuccess: kept,
  });
}

export function useBolts(machineId: number, id: number) {
  const kept = useKept(machineId);
  return useOnce({
    mutationFn: (done: boolean) =>
      answer(client.PUT("/api/jobs/{job_id}/bolts", { params: of(id), body: { done } })),
    onSuccess: kept,
  });
}

export function useRemoveJobPhoto(id: number) {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: (job_photo_id: number) =>
      answer(
        client.PUT("/api/job-photos/{job_photo_id}/removed", {
          params: { path: { job_photo_id } },
          body: { removed: true },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: jobKey(id) }),
  });
}

/** Ask the service tool one thing; the sheet is asked again, as it waits for what the tool says. */
export function useAskTool(id: number) {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: (body: Schemas["ToolAsk"]) =>
      answer(client.POST("/api/jobs/{job_id}/service", { params: of(id), body })),
    onSettled: () => queries.invalidateQueries({ queryKey: jobKey(id) }),
  });
}

export function useFasteners(machineId: number) {
  return useQuery({
    queryKey: ["machine", machineId, "fasteners"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/fasteners", { params: at(machineId) })),
  });
}

export function useKeepFastener(machineId: number, jobId: number) {
  const queries = useQueryClient();
  const refresh = useRefresh(machineId);
  return useOnce({
    mutationFn: (body: Schemas["FastenerAsk"]) =>
      answer(client.PUT("/api/machines/{machine_id}/fasteners", { params: at(machineId), body })),
    onSettled: () => Promise.all([queries.invalidateQueries({ queryKey: jobKey(jobId) }), refresh()]),
  });
}

// What the outbox sends.
export const sendMarks = (id: number, marks: Schemas["MarkIn"][]) =>
  answer(client.PUT("/api/jobs/{job_id}/marks", { params: of(id), body: { marks } }));

export const sendValues = (id: number, body: Schemas["ValuesAsk"]) =>
  answer(client.PUT("/api/jobs/{job_id}/values", { params: of(id), body }));

export function sendPhoto(id: number, fields: { token: string; corner: string; when: string }, file: Blob) {
  const body = new FormData();
  for (const [name, value] of Object.entries(fields)) body.set(name, value);
  body.set("file", file, "picture.jpg");
  return answer(
    client.POST("/api/jobs/{job_id}/photos", {
      params: of(id),
      body: body as unknown as { token: string; corner: string; when: string; file: string },
      bodySerializer: () => body,
    }),
  );
}

export const readWrench = (id: number, body: Schemas["WrenchAsk"]) =>
  answer(client.POST("/api/jobs/{job_id}/wrench", { params: of(id), body }));
