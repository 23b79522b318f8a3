// Backups of the whole server, and how it is.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { asForm } from "../../api/form";
import { useOnce } from "../../api/once";

/** A backup: one that came as a file, or one the server keeps. */
export type Chosen = { token: string } | { name: string };

export const useSafekeeping = () =>
  useQuery({ queryKey: ["safekeeping"], queryFn: () => answer(client.GET("/api/safekeeping")) });

export const useDoctor = (enabled: boolean) =>
  useQuery({
    queryKey: ["doctor"],
    queryFn: () => answer(client.GET("/api/safekeeping/doctor")),
    enabled,
  });

function useListed<V>(send: (value: V) => Promise<Schemas["SafekeepingOut"]>) {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: send,
    onSuccess: (state) => queries.setQueryData(["safekeeping"], state),
  });
}

export const useMakeBackup = () =>
  useListed((passphrase: string) =>
    answer(client.POST("/api/safekeeping/backups", { body: { passphrase } })),
  );

export const useDeleteBackup = () =>
  useListed((name: string) =>
    answer(client.PUT("/api/safekeeping/backups/{name}/deleted", { params: { path: { name } } })),
  );

export const useLockBackups = () =>
  useListed((body: Schemas["LockAsk"]) => answer(client.PUT("/api/safekeeping/passphrase", { body })));

export const useLookAtBackup = () =>
  useOnce({
    mutationFn: (body: Schemas["ChosenAsk"]) => answer(client.POST("/api/safekeeping/look", { body })),
  });

export const useRestore = () =>
  useOnce({
    mutationFn: (body: Schemas["RestoreAsk"]) => answer(client.POST("/api/safekeeping/restore", { body })),
  });

// Below what one request may bring.
const PIECE_BYTES = 8_000_000;

/** Send a file piece by piece, and say how far it is; gives the name it goes by. */
export async function sendFile(file: File, onShare: (share: number) => void): Promise<string> {
  const token = Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) =>
    byte.toString(16).padStart(2, "0"),
  ).join("");
  for (let offset = 0; offset < file.size; offset += PIECE_BYTES) {
    const piece = new File([file.slice(offset, offset + PIECE_BYTES)], "piece");
    await answer(
      client.POST(
        "/api/safekeeping/incoming",
        asForm<{ file: string; token: string; offset: number }>({
          file: piece,
          token,
          offset: String(offset),
        }),
      ),
    );
    onShare(Math.min(1, (offset + PIECE_BYTES) / file.size));
  }
  return token;
}
