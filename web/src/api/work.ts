import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { createStore, useStore } from "../lib/store";
import { answer, client } from "./client";

/** What is under way, by the place on the page that waits for it. */
const runningStore = createStore<Record<string, string | undefined>>({});
let count = 0;

/**
 * Send a request the server can be asked about and told to stop. `slot` is the place that waits for it; when the
 * signal aborts, the server stops computing as well.
 */
export async function followed<T>(
  slot: string,
  signal: AbortSignal,
  send: (headers: { "X-Work": string }) => Promise<T>,
): Promise<T> {
  count += 1;
  const name = `${slot}-${Date.now().toString(36)}-${count}`;
  const stop = () => {
    client.DELETE("/api/work/{name}", { params: { path: { name } } }).catch(() => undefined);
  };
  signal.addEventListener("abort", stop);
  runningStore.set({ ...runningStore.get(), [slot]: name });
  try {
    return await send({ "X-Work": name });
  } finally {
    signal.removeEventListener("abort", stop);
    if (runningStore.get()[slot] === name) runningStore.set({ ...runningStore.get(), [slot]: undefined });
  }
}

const PATIENCE_MS = 1000;

/** What is under way: `place` is how many come before it, 0 once it is its turn. */
export type UnderWay = { doing: string; share: number; place: number };

/** How far the work of a slot is, once it has taken more than a second; null while there is nothing to show. */
export function useProgress(slot: string): UnderWay | null {
  const name = useStore(runningStore)[slot];
  const [late, setLate] = useState<string | null>(null);
  useEffect(() => {
    if (!name) return;
    const timer = setTimeout(() => setLate(name), PATIENCE_MS);
    return () => clearTimeout(timer);
  }, [name]);
  const shown = name !== undefined && late === name;
  const found = useQuery({
    queryKey: ["work", name],
    enabled: shown,
    refetchInterval: 400,
    retry: false,
    gcTime: 0,
    queryFn: () => answer(client.GET("/api/work/{name}", { params: { path: { name: name ?? "" } } })),
  });
  if (!shown || !found.data?.under_way) return null;
  return { doing: found.data.doing, share: found.data.done_share, place: found.data.place };
}
