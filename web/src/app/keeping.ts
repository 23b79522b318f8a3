// What a change has answered is what its address would answer now: the device keeps it as such.
import type { QueryClient, QueryKey } from "@tanstack/react-query";
import { onDevice } from "../lib/onDevice";

const addresses: Record<string, string> = {
  inspection: "inspections",
  job: "jobs",
  "bedding-run": "bedding-runs",
};

function addressOf([name, id, ...rest]: QueryKey): string | null {
  const place = addresses[String(name)];
  return place && typeof id === "number" && rest.length === 0 ? `/api/${place}/${id}` : null;
}

/** Follow what is put into the page's memory by hand. */
export function keepChanges(queries: QueryClient) {
  queries.getQueryCache().subscribe((event) => {
    if (event.type !== "updated" || event.action.type !== "success" || !event.action.manual) return;
    const url = addressOf(event.query.queryKey);
    if (url) void onDevice((device) => device.keepAnswer(url, event.query.state.data));
  });
}
