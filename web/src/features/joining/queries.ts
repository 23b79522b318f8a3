// What a one-time address leads to.
import type { Schemas } from "../../api/client";
import { send, useAsk } from "../../api/hooks";
import { useOnce } from "../../api/once";

export const useAddress = (secret: string) =>
  useAsk(
    ["address", secret],
    "post",
    "/api/joining/look",
    { body: { secret } },
    {
      enabled: secret.length >= 10,
      retry: false,
      // Used, it leads nowhere: what stands on the page then is not asked for again.
      staleTime: Number.POSITIVE_INFINITY,
    },
  );

/** Sign in with what was just typed: nobody types it twice. */
const signedIn = async (username: string, password: string) => {
  await send("post", "/api/session", { body: { username, password, code: "" } });
  location.assign("/");
};

export function useFound() {
  return useOnce({
    mutationFn: async (body: Schemas["FoundAsk"]) => {
      await send("post", "/api/joining/found", { body });
      await signedIn(body.username, body.password);
    },
  });
}

export function useJoin() {
  return useOnce({
    mutationFn: async (body: Schemas["JoinAsk"]) => {
      await send("post", "/api/joining/join", { body });
      await signedIn(body.username, body.password);
    },
  });
}

export function useReset() {
  return useOnce({
    mutationFn: async (body: Schemas["ResetAsk"]) => {
      const joined = await send("post", "/api/joining/reset", { body });
      await signedIn(joined.name, body.password);
    },
  });
}

export function useJoinToo() {
  return useOnce({
    mutationFn: async (secret: string) => {
      const { workshop_id } = await send("post", "/api/joining/join-too", { body: { secret } });
      await send("put", "/api/session/workshop", { body: { workshop_id } });
      location.assign("/");
    },
  });
}
