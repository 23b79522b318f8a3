// What is one's own and the workshop's: people, sessions, keys, the second factor.
import type { Schemas } from "../../api/client";
import { to, useAgain, useAsk, useChange, useSend } from "../../api/hooks";

export const useMe = () => useAsk(["me"], "get", "/api/me", {});

export const usePeople = () => useAsk(["people"], "get", "/api/members", {});

export const useWorkshopSettings = () => useAsk(["workshop-settings"], "get", "/api/workshop/settings", {});

/** A change after which what is listed is asked for again. */
const useListed = (...keys: string[]) => useAgain(...keys.map((key) => [key]));

export const useChangeWorkshop = () =>
  useChange("put", "/api/workshop/settings", {}, useListed("workshop-settings", "session"));

export const useInvite = () => useChange("post", "/api/addresses", {}, useListed("people"));

export const useWithdrawAddress = () =>
  useSend(
    "put",
    "/api/addresses/{address_id}/withdrawn",
    (address_id: number) => to({ address_id }),
    useListed("people"),
  );

export const useGiveRole = () =>
  useSend(
    "put",
    "/api/members/{member_id}/role",
    ({ member_id, ...body }: { member_id: number } & Schemas["RoleAsk"]) => to({ member_id }, body),
    useListed("people", "session"),
  );

export const useSayDrives = () =>
  useSend(
    "put",
    "/api/members/{member_id}/machines",
    ({ member_id, machines_of }: { member_id: number; machines_of: string }) =>
      to({ member_id }, { machines_of }),
    useListed("people"),
  );

export const useGiveReset = () =>
  useSend(
    "post",
    "/api/members/{member_id}/reset",
    (member_id: number) => to({ member_id }),
    useListed("people"),
  );

export const useTakeOutMember = () =>
  useSend(
    "put",
    "/api/members/{member_id}/out",
    ({ member_id, forget }: { member_id: number; forget: boolean }) => to({ member_id }, { forget }),
    useListed("people"),
  );

export const useWithdrawAnyKey = () =>
  useSend(
    "put",
    "/api/members/keys/{key_id}/withdrawn",
    (key_id: number) => to({ key_id }),
    useListed("people", "me"),
  );

export const useMakeKey = () => useChange("post", "/api/me/keys", {}, useListed("me", "people"));

export const useWithdrawKey = () =>
  useSend(
    "put",
    "/api/me/keys/{key_id}/withdrawn",
    (key_id: number) => to({ key_id }),
    useListed("me", "people"),
  );

export const useEndSession = () =>
  useSend(
    "put",
    "/api/me/sessions/{open_session_id}/ended",
    (open_session_id: number) => to({ open_session_id }),
    useListed("me"),
  );

export const useEndOthers = () => useChange("post", "/api/me/sessions/end-others", {}, useListed("me"));

export const useBeginSecond = () => useChange("post", "/api/me/second", {});

export const useFinishSecond = () =>
  useChange("put", "/api/me/second", {}, useListed("me", "session", "people"));

export const useNewCodes = () => useChange("post", "/api/me/second/codes", {}, useListed("me"));

export const useEndSecond = () => useChange("post", "/api/me/second/end", {}, useListed("me", "session"));

/** Gone from here: the page is loaded again, as whoever is left. */
const away = () => location.assign("/");

export const useLeave = () => useChange("post", "/api/me/leave", {}, away);

export const useForgetMe = () => useChange("post", "/api/me/forget", {}, away);
