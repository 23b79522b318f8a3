// The catalogue, its files, and friction of the workshop's own.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { asForm } from "../../api/form";
import { useOnce } from "../../api/once";

export type TableName = Schemas["TableForm"]["table"];

export type PartsFile = { file: File; table: TableName; mapping: Record<string, string>; sure?: boolean };

const sent = ({ file, table, mapping, sure }: PartsFile) =>
  asForm<{ file: string; table: TableName; mapping: string; sure: boolean }>({
    file,
    table,
    mapping: JSON.stringify(mapping),
    ...(sure ? { sure: "true" } : {}),
  });

export function useCatalogue() {
  return useQuery({ queryKey: ["catalogue"], queryFn: () => answer(client.GET("/api/catalogue")) });
}

export function useLookAtTable() {
  return useOnce({
    mutationFn: (parts: PartsFile) => answer(client.POST("/api/catalogue/look", sent(parts))),
  });
}

/** What a file would do; asked again whenever its mapping changes. */
export function useReadTable() {
  return useOnce({
    mutationFn: (parts: PartsFile) => answer(client.POST("/api/catalogue/read", sent(parts))),
  });
}

export function useImportTable() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: (parts: PartsFile) => answer(client.POST("/api/catalogue/import", sent(parts))),
    // Every machine may be computed with a part that has changed.
    onSuccess: () => queries.invalidateQueries(),
  });
}

export function usePart(table: TableName, name: string, second: string) {
  return useQuery({
    queryKey: ["catalogue", "part", table, name, second],
    gcTime: 0,
    queryFn: () =>
      answer(
        client.GET("/api/catalogue/part/{table}", { params: { path: { table }, query: { name, second } } }),
      ),
  });
}

/** Every machine may be computed with a part that has changed: all of it is asked for again. */
function useEverything() {
  const queries = useQueryClient();
  return () => queries.invalidateQueries();
}

export function useKeepPart() {
  const onSuccess = useEverything();
  return useOnce({
    mutationFn: (body: Schemas["PartAsk"]) => answer(client.PUT("/api/catalogue/part", { body })),
    onSuccess,
  });
}

export function useKeepReading(pad_id: number) {
  const onSuccess = useEverything();
  return useOnce({
    mutationFn: (body: Schemas["ReadingAsk"]) =>
      answer(
        client.POST("/api/catalogue/compounds/{pad_id}/readings", { params: { path: { pad_id } }, body }),
      ),
    onSuccess,
  });
}

export function useRemoveReading() {
  const onSuccess = useEverything();
  return useOnce({
    mutationFn: ({ reading, removed }: { reading: number; removed: boolean }) =>
      answer(
        client.PUT("/api/catalogue/readings/{reading_id}/removed", {
          params: { path: { reading_id: reading } },
          body: { removed },
        }),
      ),
    onSuccess,
  });
}

export function useUseOwn(pad_id: number) {
  const onSuccess = useEverything();
  return useOnce({
    mutationFn: (use_own: boolean) =>
      answer(
        client.PUT("/api/catalogue/compounds/{pad_id}/use-own", {
          params: { path: { pad_id } },
          body: { use_own },
        }),
      ),
    onSuccess,
  });
}

export function useBrakingFriction() {
  return useOnce({
    mutationFn: ({ machine, ...body }: { machine: number } & Schemas["FrictionAsk"]) =>
      answer(
        client.POST("/api/machines/{machine_id}/friction", {
          params: { path: { machine_id: machine } },
          body,
        }),
      ),
  });
}
