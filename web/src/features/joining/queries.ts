// What a one-time address leads to.
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { useOnce } from "../../api/once";

export const useAddress = (secret: string) =>
  useQuery({
    queryKey: ["address", secret],
    queryFn: () => answer(client.POST("/api/joining/look", { body: { secret } })),
    enabled: secret.length >= 10,
    retry: false,
    // Used, it leads nowhere: what stands on the page then is not asked for again.
    staleTime: Number.POSITIVE_INFINITY,
  });

/** Sign in with what was just typed: nobody types it twice. */
const signedIn = async (username: string, password: string) => {
  await answer(client.POST("/api/session", { body: { username, password, code: "" } }));
  location.assign("/");
};

export function useFound() {
  return useOnce({
    mutationFn: async (body: Schemas["FoundAsk"]) => {
      await answer(client.POST("/api/joining/found", { body }));
      await signedIn(body.username, body.password);
    },
  });
}

export function useJoin() {
  return useOnce({
    mutationFn: async (body: Schemas["JoinAsk"]) => {
      await answer(client.POST("/api/joining/join", { body }));
      await signedIn(body.username, body.password);
    },
  });
}

export function useReset() {
  return useOnce({
    mutationFn: async (body: Schemas["ResetAsk"]) => {
      const joined = await answer(client.POST("/api/joining/reset", { body }));
      await signedIn(joined.name, body.password);
    },
  });
}

export function useJoinToo() {
  return useOnce({
    mutationFn: async (secret: string) => {
      const joined = await answer(client.POST("/api/joining/join-too", { body: { secret } }));
      await answer(client.PUT("/api/session/workshop", { body: { workshop_id: joined.workshop_id } }));
      location.assign("/");
    },
  });
}
