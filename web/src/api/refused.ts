import { useMemo } from "react";
import type { Refused } from "../lib/refusals";
import { isClash, ProblemError, problemText } from "./client";

/** Why what a form sent was not taken, for the form: the same object until it is sent again; null without an error. */
export function useRefused(error: unknown): Refused | null {
  return useMemo(() => {
    if (!error) return null;
    // The fields of a clash say who has changed what: one sentence, and no bounds.
    const fields = error instanceof ProblemError && !isClash(error.problem) ? error.problem.fields : [];
    return { detail: problemText(error), fields };
  }, [error]);
}
