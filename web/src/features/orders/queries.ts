// The order list: what is to be bought for which machine and event.
import { useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { send, to, useAsk, useRemoval, useSend } from "../../api/hooks";
import { askAgain } from "../../api/keys";
import { useOnce } from "../../api/once";

export const useOrders = () => useAsk(["orders"], "get", "/api/orders", {});

/** What is ordered or has come changes the shelf and the season of its machine. */
function useRefreshOrders() {
  const queries = useQueryClient();
  return () => Promise.all(["orders", "machine", "planner"].map((key) => askAgain(queries, [key])));
}

export function useSaveOrder() {
  const refresh = useRefreshOrders();
  return useOnce({
    mutationFn: ({ id, body }: { id: number | null; body: Schemas["OrderAsk"] }) =>
      id === null
        ? send("post", "/api/orders", { body })
        : send("put", "/api/orders/{order_id}", to({ order_id: id }, body)),
    onSuccess: refresh,
  });
}

export const useTickOrder = () =>
  useSend(
    "put",
    "/api/orders/{order_id}/ticked",
    ({ id, ...body }: { id: number } & Schemas["TickAsk"]) => to({ order_id: id }, body),
    useRefreshOrders(),
  );

export const useRemoveOrder = () => useRemoval("/api/orders/{order_id}/removed", useRefreshOrders());
