// Who is here: sign in and out, the password.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { actFor, actsFor } from "../../api/acting";
import { ProblemError, type Schemas } from "../../api/client";
import { expiredStore } from "../../api/expired";
import { send, useAgain, useAsk, useChange } from "../../api/hooks";
import { useOnce } from "../../api/once";
import { onDevice } from "../../lib/onDevice";
import { clearDrafts, setPerson } from "../../lib/store";

const forgetAnswers = () => onDevice((device) => device.forgetAnswers());

export const sessionQuery = {
  queryKey: ["session"],
  queryFn: async () => {
    try {
      const session = await send("get", "/api/session", {});
      const before = actsFor();
      actFor(session);
      // Somebody else signed in, or chose another workshop, in another tab: nothing of before stays on this page.
      if (before !== null && before !== actsFor()) void forgetAnswers().then(() => location.assign("/"));
      // Nothing is drawn before what the person has typed and not sent is there again.
      await setPerson(session.user);
      return session;
    } catch (error) {
      if (error instanceof ProblemError && error.problem.status === 401) {
        void setPerson(null);
        actFor(null);
        // Whoever signs in here next asks for their own, and so does whoever finds the device.
        void forgetAnswers();
      }
      throw error;
    }
  },
  retry: false,
};

/** What links that are handed on begin with: as the server's settings say, not as this browser calls it. */
export function usePublicAddress(): string {
  return useSession().data?.address ?? `${location.origin}/`;
}

export function useSession() {
  return useQuery(sessionQuery);
}

/** What the person's role goes as far as; the server says the same of everything that is asked of it. */
export function useMay() {
  const role = useSession().data?.role;
  return {
    works: role === "owner" || role === "fitter",
    owns: role === "owner",
    drives: role === "driver",
    reads: role === "reader",
  };
}

const signIn = (body: Schemas["SignIn"]) => send("post", "/api/session", { body });

export function useSignIn() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: signIn,
    // What whoever sat here before had on the page is not shown while one's own is on its way.
    onSuccess: () => queries.resetQueries(),
  });
}

/**
 * Sign in again over the page as it stands, which goes on with what it was doing; somebody else than before begins at
 * the workshop, with nothing of the other's on the page.
 */
export function useSignInAgain() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: signIn,
    onSuccess: async (session) => {
      const before = queries.getQueryData<Schemas["Session"]>(["session"]);
      if (before && before.user !== session.user) {
        queries.clear();
        void forgetAnswers().then(() => location.assign("/"));
        return;
      }
      queries.setQueryData(["session"], session);
      actFor(session);
      await setPerson(session.user);
      expiredStore.set(false);
      void queries.invalidateQueries();
    },
  });
}

/** Work in another workshop one belongs to: everything on the page is that one's from then on. */
export const useChooseWorkshop = () =>
  useChange("put", "/api/session/workshop", {}, () => forgetAnswers().then(() => location.assign("/")));

export function useSignOut() {
  const queries = useQueryClient();
  return useOnce({
    mutationFn: () => send("delete", "/api/session", {}),
    onSuccess: async () => {
      await Promise.all([clearDrafts(), forgetAnswers()]);
      // What was looked at is not left in the page's memory either.
      queries.clear();
      location.assign("/");
    },
  });
}

/** Another password; every other session of the person ends. */
export const useChangePassword = () => useChange("put", "/api/session/password", {});

/** What an upgrade changed, for an owner who has not read it yet. */
export const useNews = (enabled: boolean) =>
  useAsk(["news"], "get", "/api/news", {}, { enabled, staleTime: Number.POSITIVE_INFINITY });

export const useReadNews = () => useChange("put", "/api/news/read", {}, useAgain(["news"]));
