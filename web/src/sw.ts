// What a device keeps so that a page it has opened once opens again without a connection.
import { ExpirationPlugin } from "workbox-expiration";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { CacheFirst, NetworkFirst } from "workbox-strategies";
import { ANSWERS, CODE, FROM_DEVICE, KEPT_ANSWERS, PAGE } from "./lib/device";

// What a worker has and a page has not.
declare const self: EventTarget & { clients: { claim: () => Promise<void> }; build: string };
// Named by what the page is built of: where that is another, so is the worker.
declare const BUILD: string;
self.build = BUILD;

// A newer worker does not push in: it waits until no page of this one is open, and then begins by itself.
self.addEventListener("activate", () => void self.clients.claim());

// Code carries its print in its name: what is kept is never an older one.
registerRoute(
  ({ url }) => url.pathname.startsWith("/static/assets/"),
  new CacheFirst({ cacheName: CODE, plugins: [new ExpirationPlugin({ maxEntries: 400 })] }),
);

// Every address is the same page.
registerRoute(
  new NavigationRoute(
    new NetworkFirst({ cacheName: PAGE, plugins: [{ cacheKeyWillBeUsed: async () => "/" }] }),
    { denylist: [/^\/(api|static)\//] },
  ),
);

/** An answer of before says so: the page must not take it for a connection. */
const marked = async ({ cachedResponse }: { cachedResponse?: Response }) => {
  if (!cachedResponse) return null;
  const headers = new Headers(cachedResponse.headers);
  headers.set(FROM_DEVICE, "1");
  const { status, statusText } = cachedResponse;
  return new Response(await cachedResponse.blob(), { headers, status, statusText });
};

registerRoute(
  ({ url }) => KEPT_ANSWERS.test(url.pathname),
  new NetworkFirst({
    cacheName: ANSWERS,
    plugins: [{ cachedResponseWillBeUsed: marked }, new ExpirationPlugin({ maxEntries: 400 })],
  }),
);
