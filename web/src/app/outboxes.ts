// What waited on this device from before is sent whichever page is opened: each outbox with something in it is opened.
import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { heldOnes, heldStore, useStore } from "../lib/store";
import { type Kind, type Waiting, waitingIn } from "../lib/waiting";

type Open = (queries: QueryClient, machineId: number, id: number) => { flush: () => Promise<void> };

// The same each time it is asked: two of one sheet would write over each other what they keep.
const openers: Record<Kind, () => Promise<Open>> = {
  inspection: () => import("../features/inspect").then((found) => found.outboxOf),
  job: () => import("../features/job").then((found) => found.outboxOf),
  run: () => import("../features/bed").then((found) => found.outboxOf),
  events: () => import("../features/life").then((found) => found.outboxOf),
};

/** The outboxes that hold something. */
export function useWaiting(): Waiting[] {
  useStore(heldStore);
  return waitingIn(heldOnes());
}

/** Once somebody is signed in, send what they left behind. */
export function useSending(user: string | undefined) {
  const queries = useQueryClient();
  useEffect(() => {
    if (user === undefined) return;
    for (const { kind, machineId, id, waits } of waitingIn(heldOnes()))
      if (waits > 0)
        void openers[kind]()
          .then((open) => open(queries, machineId, id).flush())
          // Its code did not arrive: its page, once opened, sends it.
          .catch(() => undefined);
  }, [queries, user]);
}
