// Jobs: begun, worked through, closed; fasteners; the service tool.
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { asForm } from "../../api/form";
import { send, to, useAgain, useAsk, useChange, useSend, useTakeIn } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";

export type Job = Schemas["JobOut"];
export type Step = Schemas["StepOut"];
export type Fastener = Schemas["FastenerOut"];
export type Work = Job["work"];

const LOOK_AGAIN_MS = 15_000;

export const jobKey = (id: number) => ["job", id];
const of = <B = undefined>(job_id: number, body?: B) => to({ job_id }, body);

export const useJobs = (machineId: number) =>
  useAsk(["machine", machineId, "jobs"], "get", "/api/machines/{machine_id}/jobs", at(machineId));

export function useJob(id: number) {
  return useQuery({
    queryKey: jobKey(id),
    queryFn: () => send("get", "/api/jobs/{job_id}", of(id)),
    // Somebody else may be ticking the same sheet.
    refetchInterval: (query) => (query.state.data?.closed_at ? false : LOOK_AGAIN_MS),
  });
}

export const useStartJob = (machineId: number) =>
  useChange("post", "/api/machines/{machine_id}/jobs", at(machineId), useRefresh(machineId));

const useKept = (machineId: number) => useTakeIn((job: Job) => jobKey(job.id), useRefresh(machineId));

export const useChooseOption = (machineId: number, id: number) =>
  useChange("put", "/api/jobs/{job_id}/school", of(id), useKept(machineId));

export const useSayCost = (machineId: number, id: number) =>
  useChange("put", "/api/jobs/{job_id}/cost", of(id), useKept(machineId));

export const useLasting = (id: number, enabled: boolean) =>
  useAsk([...jobKey(id), "lasting"], "get", "/api/jobs/{job_id}/lasting", of(id), { enabled });

export const useLeftOut = (id: number, enabled: boolean) =>
  useAsk([...jobKey(id), "left-out"], "get", "/api/jobs/{job_id}/left-out", of(id), { enabled });

export const useWriteNote = (machineId: number, id: number) =>
  useChange("put", "/api/jobs/{job_id}/note", of(id), useKept(machineId));

export const useAbandon = (machineId: number, id: number) =>
  useChange("put", "/api/jobs/{job_id}/abandoned", of(id), useKept(machineId));

export const useCloseJob = (machineId: number, id: number) =>
  useChange("put", "/api/jobs/{job_id}/closed", of(id), useKept(machineId));

export const useBolts = (machineId: number, id: number) =>
  useChange("put", "/api/jobs/{job_id}/bolts", of(id), useKept(machineId));

export const useRemoveJobPhoto = (id: number) =>
  useSend(
    "put",
    "/api/job-photos/{job_photo_id}/removed",
    (job_photo_id: number) => to({ job_photo_id }, { removed: true }),
    useAgain(jobKey(id)),
  );

/** Ask the service tool one thing; the sheet is asked again, as it waits for what the tool says. */
export const useAskTool = (id: number) =>
  useChange("post", "/api/jobs/{job_id}/service", of(id), undefined, useAgain(jobKey(id)));

export const useFasteners = (machineId: number) =>
  useAsk(["machine", machineId, "fasteners"], "get", "/api/machines/{machine_id}/fasteners", at(machineId));

export function useKeepFastener(machineId: number, jobId: number) {
  const sheet = useAgain(jobKey(jobId));
  const refresh = useRefresh(machineId);
  const path = "/api/machines/{machine_id}/fasteners";
  return useChange("put", path, at(machineId), undefined, () => Promise.all([sheet(), refresh()]));
}

// What the outbox sends.
export const sendMarks = (id: number, marks: Schemas["MarkIn"][]) =>
  send("put", "/api/jobs/{job_id}/marks", of(id, { marks }));

export const sendValues = (id: number, body: Schemas["ValuesAsk"]) =>
  send("put", "/api/jobs/{job_id}/values", of(id, body));

export const sendPhoto = (
  id: number,
  fields: { token: string; corner: string; when: string },
  picture: Blob,
) => {
  const file = new File([picture], "picture.jpg", { type: picture.type });
  return send("post", "/api/jobs/{job_id}/photos", {
    ...of(id),
    ...asForm<typeof fields & { file: string }>({ ...fields, file }),
  });
};

export const readWrench = (id: number, body: Schemas["WrenchAsk"]) =>
  send("post", "/api/jobs/{job_id}/wrench", of(id, body));
