// The catalogue, its files, and friction of the workshop's own.
import type { Schemas } from "../../api/client";
import { asForm } from "../../api/form";
import { to, useAgain, useAsk, useChange, useRemoval, useSend } from "../../api/hooks";

export type TableName = Schemas["TableForm"]["table"];

export type PartsFile = { file: File; table: TableName; mapping: Record<string, string>; sure?: boolean };

const sent = ({ file, table, mapping, sure }: PartsFile) =>
  asForm<{ file: string; table: TableName; mapping: string; sure: boolean }>({
    file,
    table,
    mapping: JSON.stringify(mapping),
    ...(sure ? { sure: "true" } : {}),
  });

export const useCatalogue = () => useAsk(["catalogue"], "get", "/api/catalogue", {});

export const useLookAtTable = () => useSend("post", "/api/catalogue/look", sent);

/** What a file would do; asked again whenever its mapping changes. */
export const useReadTable = () => useSend("post", "/api/catalogue/read", sent);

// Every machine may be computed with a part that has changed: all there is is asked for again.
export const useImportTable = () => useSend("post", "/api/catalogue/import", sent, useAgain());

export const usePart = (table: TableName, name: string, second: string) =>
  useAsk(
    ["catalogue", "part", table, name, second],
    "get",
    "/api/catalogue/part/{table}",
    { params: { path: { table }, query: { name, second } } },
    { gcTime: 0 },
  );

export const useKeepPart = () => useChange("put", "/api/catalogue/part", {}, useAgain());

export const useKeepReading = (pad_id: number) =>
  useChange("post", "/api/catalogue/compounds/{pad_id}/readings", to({ pad_id }), useAgain());

export const useRemoveReading = () => useRemoval("/api/catalogue/readings/{reading_id}/removed", useAgain());

export const useUseOwn = (pad_id: number) =>
  useChange("put", "/api/catalogue/compounds/{pad_id}/use-own", to({ pad_id }), useAgain());

export const useBrakingFriction = () =>
  useSend(
    "post",
    "/api/machines/{machine_id}/friction",
    ({ machine, ...body }: { machine: number } & Schemas["FrictionAsk"]) => to({ machine_id: machine }, body),
  );
