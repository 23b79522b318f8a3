// The order list: what is to be bought for which machine and event.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { askAgain } from "../../api/keys";
import { useOnce } from "../../api/once";

const orderAt = (order_id: number) => ({ path: { order_id } });

export function useOrders() {
  return useQuery({ queryKey: ["orders"], queryFn: () => answer(client.GET("/api/orders")) });
}

/** What is ordered or has come changes the shelf and the season of its machine. */
function useRefreshOrders() {
  const queries = useQueryClient();
  return () =>
    Promise.all([
      askAgain(queries, ["orders"]),
      askAgain(queries, ["machine"]),
      askAgain(queries, ["planner"]),
    ]);
}

export function useSaveOrder() {
  const refresh = useRefreshOrders();
  return useOnce({
    mutationFn: ({ id, body }: { id: number | null; body: Schemas["OrderAsk"] }) =>
      answer(
        id === null
          ? client.POST("/api/orders", { body })
          : client.PUT("/api/orders/{order_id}", { params: orderAt(id), body }),
      ),
    onSuccess: refresh,
  });
}

export function useTickOrder() {
  const refresh = useRefreshOrders();
  return useOnce({
    mutationFn: ({ id, ...body }: { id: number } & Schemas["TickAsk"]) =>
      answer(client.PUT("/api/orders/{order_id}/ticked", { params: orderAt(id), body })),
    onSuccess: refresh,
  });
}

export function useRemoveOrder() {
  const refresh = useRefreshOrders();
  return useOnce({
    mutationFn: ({ id, removed }: { id: number; removed: boolean }) =>
      answer(client.PUT("/api/orders/{order_id}/removed", { params: orderAt(id), body: { removed } })),
    onSuccess: refresh,
  });
}
