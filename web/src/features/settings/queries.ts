// What is one's own and the workshop's: people, sessions, keys, the second factor.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { useOnce } from "../../api/once";

export const useMe = () => useQuery({ queryKey: ["me"], queryFn: () => answer(client.GET("/api/me")) });

export const usePeople = () =>
  useQuery({ queryKey: ["people"], queryFn: () => answer(client.GET("/api/members")) });

export const useWorkshopSettings = () =>
  useQuery({
    queryKey: ["workshop-settings"],
    queryFn: () => answer(client.GET("/api/workshop/settings")),
  });

/** A change after which what is listed is asked for again. */
function useChange<V, D>(send: (value: V) => Promise<D>, ...keys: string[]) {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: send,
    onSuccess: () => Promise.all(keys.map((key) => queries.invalidateQueries({ queryKey: [key] }))),
  });
}

export const useChangeWorkshop = () =>
  useChange(
    (body: Schemas["WorkshopAsk"]) => answer(client.PUT("/api/workshop/settings", { body })),
    "workshop-settings",
    "session",
  );

export const useInvite = () =>
  useChange((body: Schemas["InviteAsk"]) => answer(client.POST("/api/addresses", { body })), "people");

export const useWithdrawAddress = () =>
  useChange(
    (address_id: number) =>
      answer(client.PUT("/api/addresses/{address_id}/withdrawn", { params: { path: { address_id } } })),
    "people",
  );

export const useGiveRole = () =>
  useChange(
    ({ member_id, role }: { member_id: number; role: Schemas["RoleAsk"]["role"] }) =>
      answer(
        client.PUT("/api/members/{member_id}/role", { params: { path: { member_id } }, body: { role } }),
      ),
    "people",
    "session",
  );

export const useSayDrives = () =>
  useChange(
    ({ member_id, machines_of }: { member_id: number; machines_of: string }) =>
      answer(
        client.PUT("/api/members/{member_id}/machines", {
          params: { path: { member_id } },
          body: { machines_of },
        }),
      ),
    "people",
  );

export const useGiveReset = () =>
  useChange(
    (member_id: number) =>
      answer(client.POST("/api/members/{member_id}/reset", { params: { path: { member_id } } })),
    "people",
  );

export const useTakeOutMember = () =>
  useChange(
    ({ member_id, forget }: { member_id: number; forget: boolean }) =>
      answer(
        client.PUT("/api/members/{member_id}/out", { params: { path: { member_id } }, body: { forget } }),
      ),
    "people",
  );

export const useWithdrawAnyKey = () =>
  useChange(
    (key_id: number) =>
      answer(client.PUT("/api/members/keys/{key_id}/withdrawn", { params: { path: { key_id } } })),
    "people",
    "me",
  );

export const useMakeKey = () =>
  useChange((body: Schemas["KeyAsk"]) => answer(client.POST("/api/me/keys", { body })), "me", "people");

export const useWithdrawKey = () =>
  useChange(
    (key_id: number) =>
      answer(client.PUT("/api/me/keys/{key_id}/withdrawn", { params: { path: { key_id } } })),
    "me",
    "people",
  );

export const useEndSession = () =>
  useChange(
    (open_session_id: number) =>
      answer(
        client.PUT("/api/me/sessions/{open_session_id}/ended", { params: { path: { open_session_id } } }),
      ),
    "me",
  );

export const useEndOthers = () =>
  useChange((_: undefined) => answer(client.POST("/api/me/sessions/end-others")), "me");

export const useBeginSecond = () =>
  useChange((password: string) => answer(client.POST("/api/me/second", { body: { password } })));

export const useFinishSecond = () =>
  useChange(
    (code: string) => answer(client.PUT("/api/me/second", { body: { code } })),
    "me",
    "session",
    "people",
  );

export const useNewCodes = () =>
  useChange((password: string) => answer(client.POST("/api/me/second/codes", { body: { password } })), "me");

export const useEndSecond = () =>
  useChange(
    (password: string) => answer(client.POST("/api/me/second/end", { body: { password } })),
    "me",
    "session",
  );

/** Gone from here: the page begins anew, as whoever is left. */
const away = { onSuccess: () => location.assign("/") };

export const useLeave = () =>
  useOnce({
    mutationFn: (password: string) => answer(client.POST("/api/me/leave", { body: { password } })),
    ...away,
  });

export const useForgetMe = () =>
  useOnce({
    mutationFn: (password: string) => answer(client.POST("/api/me/forget", { body: { password } })),
    ...away,
  });
