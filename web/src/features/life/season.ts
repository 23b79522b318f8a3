// A machine's season: events, every part along them, its calendar.
import { keepPreviousData, useQueryClient } from "@tanstack/react-query";
import { asForm } from "../../api/form";
import { useAsk, useChange, useRemoval, useSend } from "../../api/hooks";
import { at, useRefresh } from "../../api/keys";
import { refresh } from "./sending";

export const useSeason = (id: number) =>
  useAsk(["machine", id, "season"], "get", "/api/machines/{machine_id}/season", at(id));

/** The clock times of a file are read by. */
const zone = () => Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

/** What is in a calendar or a table, and what would become of it. */
export const useReadEvents = (id: number) =>
  useSend("post", "/api/machines/{machine_id}/events/read", (file: File) => ({
    ...at(id),
    ...asForm<{ file: string; zone: string }>({ file, zone: zone() }),
  }));

export function useTakeInEvents(id: number) {
  const queries = useQueryClient();
  return useSend(
    "post",
    "/api/machines/{machine_id}/events/take-in",
    ({ file, duty_id }: { file: File; duty_id: number }) => ({
      ...at(id),
      ...asForm<{ file: string; zone: string; duty_id: number }>({
        file,
        zone: zone(),
        duty_id: String(duty_id),
      }),
    }),
    () => refresh(queries, id),
  );
}

export const useSetFeed = (id: number) =>
  useChange("put", "/api/machines/{machine_id}/feed", at(id), useRefresh(id));

export function useReady(event_id: number, air_C: number | null) {
  const params = { path: { event_id }, query: air_C === null ? {} : { air_C } };
  return useAsk(
    ["machine", "ready", event_id, air_C],
    "get",
    "/api/events/{event_id}/ready",
    { params },
    { placeholderData: keepPreviousData },
  );
}

export const useReadFluid = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/fluid-readings", at(id), useRefresh(id));

export const useRemoveFluidReading = (id: number) =>
  useRemoval("/api/fluid-readings/{fluid_reading_id}/removed", useRefresh(id));
