import { type QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, type RouteObject, RouterProvider } from "react-router";
import { fetchAhead } from "../features/choose/queries";
import { onDevice } from "../lib/onDevice";
import { keepChanges } from "./keeping";
import { OneMachine } from "./OneMachine";
import { RouteFailure } from "./RouteFailure";
import { Shell } from "./Shell";

// A stage that is asked for in the bay is there although the connection has gone since: each is fetched, one after the
// other, once the first one is drawn and nothing anybody waits for is on its way.
const AHEAD_AFTER_MS = 4000;
const LOOK_AGAIN_MS = 500;
const loads: (() => Promise<unknown>)[] = [];
function fetchNext(queryClient: QueryClient) {
  if (queryClient.isFetching() > 0) {
    setTimeout(fetchNext, LOOK_AGAIN_MS, queryClient);
    return;
  }
  const load = loads.shift();
  if (!load) {
    // All of it is there: from now on the device keeps what is seen, for those who are signed in.
    if (queryClient.getQueryData(["session"])) void onDevice(keepAll);
    return;
  }
  load()
    .catch(() => undefined)
    .finally(() => fetchNext(queryClient));
}

async function keepAll(device: typeof import("../lib/device")) {
  if (!device.keeps()) return;
  await device.beginKeeping();
  // From here on a page that was seen opens again without a connection.
  document.documentElement.dataset.kept = "true";
}

const lazy = <K extends string>(load: () => Promise<Record<K, React.ComponentType>>, name: K) => {
  loads.push(load);
  return { lazy: async () => ({ Component: (await load())[name] }) };
};

const Nothing = () => null;

/** What is said of a failure stands around the routes: one whose code did not load draws nothing, not even that. */
const guarded = (children: RouteObject[]): RouteObject => ({ errorElement: <RouteFailure />, children });

const routes = (queryClient: QueryClient): RouteObject[] => [
  {
    HydrateFallback: Nothing,
    ...guarded([
      { path: "shared/:token", ...lazy(() => import("../features/decision"), "SharedPage") },
      { path: "join", ...lazy(() => import("../features/joining"), "JoinPage") },
    ]),
  },
  {
    Component: Shell,
    errorElement: <RouteFailure />,
    HydrateFallback: Nothing,
    children: [
      guarded([
        { index: true, ...lazy(() => import("../features/workshop"), "Workshop") },
        { path: "catalogue", ...lazy(() => import("../features/catalogue"), "Catalogue") },
        { path: "trust", ...lazy(() => import("../features/trust"), "TrustPage") },
        { path: "account", element: <Navigate to="/settings/me" replace /> },
        { path: "settings", element: <Navigate to="/settings/me" replace /> },
        { path: "settings/:part", ...lazy(() => import("../features/settings"), "Settings") },
        { path: "plan", ...lazy(() => import("../features/workshop"), "PlanPage") },
        { path: "log", ...lazy(() => import("../features/log"), "LogPage") },
        { path: "add", ...lazy(() => import("../features/machine"), "AddMachine") },
        {
          path: "m/:machineId",
          Component: OneMachine,
          children: [
            { index: true, element: <Navigate to="machine" replace /> },
            { path: "machine", ...lazy(() => import("../features/machine"), "MachineStage") },
            { path: "inspect", ...lazy(() => import("../features/inspect"), "InspectStage") },
            { path: "duty", ...lazy(() => import("../features/duty"), "DutyStage") },
            {
              path: "choose",
              loader: ({ params }: { params: { machineId?: string } }) => {
                fetchAhead(queryClient, Number(params.machineId));
                return null;
              },
              ...lazy(() => import("../features/choose"), "ChooseStage"),
            },
            { path: "decision/:decisionId", ...lazy(() => import("../features/decision"), "DecisionPage") },
            { path: "fit", ...lazy(() => import("../features/fit"), "FitStage") },
            { path: "job", ...lazy(() => import("../features/job"), "JobStage") },
            { path: "bed", ...lazy(() => import("../features/bed"), "BedStage") },
            { path: "bed/run/:runId", ...lazy(() => import("../features/bed"), "RunPage") },
            { path: "life", ...lazy(() => import("../features/life"), "LifeStage") },
            { path: "log", ...lazy(() => import("../features/log"), "LogStage") },
            { path: "thing/:kind/:thingId", ...lazy(() => import("../features/log"), "ThingPage") },
            { path: "ready/:eventId", ...lazy(() => import("../features/life"), "ReadyPage") },
          ],
        },
        { path: "*", element: <p>There is no such page. The workshop is at the foot of the rail.</p> },
      ]),
    ],
  },
];

/** Draw the page of the address, and fetch the others ahead once it stands. */
export function draw(queryClient: QueryClient) {
  keepChanges(queryClient);
  const root = document.getElementById("root");
  if (!root) throw new Error("index.html has no #root");
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <RouterProvider router={createBrowserRouter(routes(queryClient))} />
      </QueryClientProvider>
    </StrictMode>,
  );
  setTimeout(fetchNext, AHEAD_AFTER_MS, queryClient);
}
