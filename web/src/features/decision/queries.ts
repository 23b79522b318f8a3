// Decisions that were kept.
import type { Schemas } from "../../api/client";
import { to, useAgain, useAsk, useChange, useRemoval, useSend } from "../../api/hooks";
import { at } from "../../api/keys";

export const useDecisions = (id: number) =>
  useAsk(["machine", id, "decisions"], "get", "/api/machines/{machine_id}/decisions", at(id));

export const useDecision = (decision_id: number) =>
  useAsk(["decision", decision_id], "get", "/api/decisions/{decision_id}", to({ decision_id }));

export const useShared = (token: string) =>
  useAsk(["shared", token], "get", "/api/shared/{token}", to({ token }), { retry: false });

/** What has changed of a decision is asked for again, in the list and on its own page. */
const useBoth = (id: number) => useAgain(["machine", id, "decisions"], ["decision"]);

export const useKeepDecision = (id: number) =>
  useChange("post", "/api/machines/{machine_id}/decisions", at(id), useBoth(id));

export const useShare = (id: number) =>
  useSend(
    "put",
    "/api/decisions/{decision_id}/shared",
    ({ decision, ...body }: { decision: number } & Schemas["SharedAsk"]) =>
      to({ decision_id: decision }, body),
    useBoth(id),
  );

export const useRemoveDecision = (id: number) =>
  useRemoval("/api/decisions/{decision_id}/removed", useBoth(id));
