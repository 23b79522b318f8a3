import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, type RouteObject, RouterProvider } from "react-router";
import { isBusy } from "./api/client";
import { OneMachine } from "./app/OneMachine";
import { RouteFailure } from "./app/RouteFailure";
import { Shell } from "./app/Shell";
import { fetchAhead } from "./features/choose/queries";
import "./index.css";

// How often one asks again where the server has too much to do.
const PATIENCE = 8;

const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      refetchOnWindowFocus: false,
      retry: (count, error) => count < (isBusy(error) ? PATIENCE : 1),
    },
    mutations: {
      retry: (count, error) => isBusy(error) && count < PATIENCE,
      retryDelay: (count) => 1000 * (count + 1),
    },
  },
});

// A stage that is asked for in the bay is there although the connection has gone since: each is fetched, one after the
// other, once the first one is drawn and nothing anybody waits for is on its way.
const AHEAD_AFTER_MS = 4000;
const LOOK_AGAIN_MS = 500;
const loads: (() => Promise<unknown>)[] = [];
function fetchNext() {
  if (queryClient.isFetching() > 0) {
    setTimeout(fetchNext, LOOK_AGAIN_MS);
    return;
  }
  const load = loads.shift();
  load?.()
    .catch(() => undefined)
    .finally(fetchNext);
}
addEventListener("load", () => setTimeout(fetchNext, AHEAD_AFTER_MS));

const lazy = <K extends string>(load: () => Promise<Record<K, React.ComponentType>>, name: K) => {
  loads.push(load);
  return { lazy: async () => ({ Component: (await load())[name] }) };
};

/** What is said of a failure stands around the routes: one whose code did not load draws nothing, not even that. */
const guarded = (children: RouteObject[]): RouteObject => ({ errorElement: <RouteFailure />, children });

const router = createBrowserRouter([
  {
    HydrateFallback: () => null,
    ...guarded([{ path: "shared/:token", ...lazy(() => import("./features/decision"), "SharedPage") }]),
  },
  {
    Component: Shell,
    errorElement: <RouteFailure />,
    HydrateFallback: () => null,
    children: [
      guarded([
        { index: true, ...lazy(() => import("./features/workshop"), "Workshop") },
        { path: "catalogue", ...lazy(() => import("./features/catalogue"), "Catalogue") },
        { path: "trust", ...lazy(() => import("./features/trust"), "TrustPage") },
        { path: "account", ...lazy(() => import("./features/account"), "Account") },
        { path: "add", ...lazy(() => import("./features/machine"), "AddMachine") },
        {
          path: "m/:machineId",
          Component: OneMachine,
          children: [
            { index: true, element: <Navigate to="machine" replace /> },
            { path: "machine", ...lazy(() => import("./features/machine"), "MachineStage") },
            { path: "inspect", ...lazy(() => import("./features/inspect"), "InspectStage") },
            { path: "duty", ...lazy(() => import("./features/duty"), "DutyStage") },
            {
              path: "choose",
              loader: ({ params }: { params: { machineId?: string } }) => {
                fetchAhead(queryClient, Number(params.machineId));
                return null;
              },
              ...lazy(() => import("./features/choose"), "ChooseStage"),
            },
            { path: "decision/:decisionId", ...lazy(() => import("./features/decision"), "DecisionPage") },
            { path: "bed", ...lazy(() => import("./features/bed"), "BedStage") },
            { path: "life", ...lazy(() => import("./features/life"), "LifeStage") },
          ],
        },
        { path: "*", element: <p>There is no such page. The workshop is at the foot of the rail.</p> },
      ]),
    ],
  },
]);

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
