// What is asked first is asked while the code that draws it is still on its way: on a slow line that is half the time.
import { QueryClient } from "@tanstack/react-query";
import { isBusy } from "./api/client";
import { newMemory } from "./api/memory";
import { fetchAhead } from "./features/choose/queries";
import { sessionQuery } from "./features/session/queries";
import "./index.css";
import { createStore } from "./lib/store";

// How often one asks again where the server has too much to do.
const PATIENCE = 8;

const queryClient = new QueryClient({
  queryCache: newMemory(),
  defaultOptions: {
    queries: {
      // Without a network the device is asked too: it may have kept an answer.
      networkMode: "offlineFirst",
      staleTime: 30_000,
      refetchOnWindowFocus: false,
      retry: (count, error) => count < (isBusy(error) ? PATIENCE : 1),
    },
    mutations: {
      networkMode: "offlineFirst",
      retry: (count, error) => isBusy(error) && count < PATIENCE,
      retryDelay: (count) => 1000 * (count + 1),
    },
  },
});

if (!location.pathname.startsWith("/shared/")) void queryClient.prefetchQuery(sessionQuery);
const choosing = /^\/m\/(\d+)\/choose\/?$/.exec(location.pathname);
if (choosing) fetchAhead(queryClient, Number(choosing[1]));

// The typefaces are as long as half the code: the first time they wait for the numbers, afterwards the browser has them.
const FACES_AFTER_MS = 2500;
const facesStore = createStore<"new" | "known">("new", "thermaxis.faces");
const loadFaces = () => import("./fonts.css").then(() => facesStore.set("known")).catch(() => undefined);
// On a slow line or a busy server the numbers take longer than any time that is set beforehand.
const facesAfterNumbers = () =>
  setTimeout(() => (queryClient.isFetching() > 0 ? facesAfterNumbers() : void loadFaces()), FACES_AFTER_MS);
if (facesStore.get() === "known") void loadFaces();

import("./app/App").then(
  ({ draw }) => {
    draw(queryClient);
    if (facesStore.get() === "new") facesAfterNumbers();
  },
  () => {
    document.body.textContent = "The page did not arrive whole. Load it again once there is a connection.";
  },
);
