// A machine's season: events, every part along them, its calendar.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { asForm } from "../../api/form";
import { at, useRefresh } from "../../api/keys";
import { useOnce } from "../../api/once";
import { refresh } from "./sending";

const eventAt = (event_id: number) => ({ path: { event_id } });

export function useSeason(id: number) {
  return useQuery({
    queryKey: ["machine", id, "season"],
    queryFn: () => answer(client.GET("/api/machines/{machine_id}/season", { params: at(id) })),
  });
}

/** The clock times of a file are read by. */
const zone = () => Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

/** What is in a calendar or a table, and what would become of it. */
export function useReadEvents(id: number) {
  return useOnce({
    mutationFn: (file: File) =>
      answer(
        client.POST("/api/machines/{machine_id}/events/read", {
          params: at(id),
          ...asForm<{ file: string; zone: string }>({ file, zone: zone() }),
        }),
      ),
  });
}

export function useTakeInEvents(id: number) {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: ({ file, duty_id }: { file: File; duty_id: number }) =>
      answer(
        client.POST("/api/machines/{machine_id}/events/take-in", {
          params: at(id),
          ...asForm<{ file: string; zone: string; duty_id: number }>({
            file,
            zone: zone(),
            duty_id: String(duty_id),
          }),
        }),
      ),
    onSuccess: () => refresh(queries, id),
  });
}

export function useSetFeed(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (shared: boolean) =>
      answer(client.PUT("/api/machines/{machine_id}/feed", { params: at(id), body: { shared } })),
    onSuccess: refresh,
  });
}

export function useReady(event: number, air_C: number | null) {
  return useQuery({
    queryKey: ["machine", "ready", event, air_C],
    queryFn: () =>
      answer(
        client.GET("/api/events/{event_id}/ready", {
          params: { ...eventAt(event), query: air_C === null ? {} : { air_C } },
        }),
      ),
    placeholderData: (before) => before,
  });
}

export function useReadFluid(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: (body: Schemas["FluidReadingAsk"]) =>
      answer(client.POST("/api/machines/{machine_id}/fluid-readings", { params: at(id), body })),
    onSuccess: refresh,
  });
}

export function useRemoveFluidReading(id: number) {
  const refresh = useRefresh(id);
  return useOnce({
    mutationFn: ({ row, removed }: { row: number; removed: boolean }) =>
      answer(
        client.PUT("/api/fluid-readings/{fluid_reading_id}/removed", {
          params: { path: { fluid_reading_id: row } },
          body: { removed },
        }),
      ),
    onSuccess: refresh,
  });
}
