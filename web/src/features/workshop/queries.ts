// Every machine of the workshop.
import { keepPreviousData, useQueryClient } from "@tanstack/react-query";
import { asForm } from "../../api/form";
import { to, useAgain, useAsk, useChange, useSend } from "../../api/hooks";
import { afterOthers } from "../../api/quiet";
import { useSession } from "../session/queries";

/** Every machine with what is due: the frame of the page needs the names, but not before the stage has its answer. */
export function useMachines() {
  const queries = useQueryClient();
  const enabled = useSession().data !== undefined;
  const after = (signal: AbortSignal) => afterOthers(queries, ["candidates"], signal);
  return useAsk(["machines"], "get", "/api/machines", {}, { enabled, after });
}

/** Every machine with its verdict, in one answer. */
export const useOverview = () => useAsk(["machines", "overview"], "get", "/api/workshop/overview", {});

/** A machine to try things on, into a workshop that has none. */
export const useDemoMachine = () => useChange("post", "/api/workshop/demo-machine", {}, useAgain());

export const useImportCase = () => useChange("post", "/api/cases", {}, useAgain());

/** What is due next over all machines, and what stands in the calendar between two days. */
export const usePlanner = (since: string, until: string) =>
  useAsk(
    ["planner", since, until],
    "get",
    "/api/workshop/planner",
    { params: { query: { since, until } } },
    { placeholderData: keepPreviousData },
  );

export const useOwners = () => useAsk(["machines", "owners"], "get", "/api/owners", {});

/** Give a machine to another owner, with its log. */
export const useHandOver = () =>
  useSend(
    "put",
    "/api/machines/{machine_id}/owner",
    ({ id, owner }: { id: number; owner: string }) => to({ machine_id: id }, { owner }),
    useAgain(),
  );

const whole = (file: File) => asForm<{ file: string }>({ file });

/** A machine of another workshop, with its log. */
export const useTakeInMachine = () => useSend("post", "/api/workshop/machine-files", whole, useAgain());

/** A whole workshop, into one that is empty. */
export const useTakeInWorkshop = () => useSend("post", "/api/workshop/take-in", whole, useAgain());
