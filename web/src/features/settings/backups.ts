// Backups of the whole server, and how it is.
import type { Schemas } from "../../api/client";
import { asForm } from "../../api/form";
import { send, to, useAsk, useChange, useSend, useTakeIn } from "../../api/hooks";

/** A backup: one that came as a file, or one the server keeps. */
export type Chosen = { token: string } | { name: string };

export const useSafekeeping = () => useAsk(["safekeeping"], "get", "/api/safekeeping", {});

export const useDoctor = (enabled: boolean) =>
  useAsk(["doctor"], "get", "/api/safekeeping/doctor", {}, { enabled });

/** The list as the change has answered it. */
const useListed = () =>
  useTakeIn(
    (_: Schemas["SafekeepingOut"]) => ["safekeeping"],
    () => undefined,
  );

export const useMakeBackup = () => useChange("post", "/api/safekeeping/backups", {}, useListed());

export const useDeleteBackup = () =>
  useSend("put", "/api/safekeeping/backups/{name}/deleted", (name: string) => to({ name }), useListed());

export const useLockBackups = () => useChange("put", "/api/safekeeping/passphrase", {}, useListed());

export const useLookAtBackup = () => useChange("post", "/api/safekeeping/look", {});

export const useRestore = () => useChange("post", "/api/safekeeping/restore", {});

// Below what one request may bring.
const PIECE_BYTES = 8_000_000;

/** Send a file piece by piece, and say how far it is; gives the name it goes by. */
export async function sendFile(file: File, onShare: (share: number) => void): Promise<string> {
  const token = Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) =>
    byte.toString(16).padStart(2, "0"),
  ).join("");
  for (let offset = 0; offset < file.size; offset += PIECE_BYTES) {
    const piece = new File([file.slice(offset, offset + PIECE_BYTES)], "piece");
    const form = { file: piece, token, offset: String(offset) };
    await send(
      "post",
      "/api/safekeeping/incoming",
      asForm<{ file: string; token: string; offset: number }>(form),
    );
    onShare(Math.min(1, (offset + PIECE_BYTES) / file.size));
  }
  return token;
}
