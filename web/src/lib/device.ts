// What this device keeps of pages and answers, so that a sheet opens in a bay and a run card in a car park without a
// connection.

export const CODE = "thermaxis-code";
export const PAGE = "thermaxis-page";
export const ANSWERS = "thermaxis-answers";
// What is asked of one machine: what its pages for a bay, a car park or a paddock are drawn from.
const OF_MACHINE =
  "inspections|jobs|fasteners|bedded|plans|season|life|hoses|shelf|parts|moves|set-ups|fit|duties|levers";
/** Answers that are kept: who is signed in, the machines, their sheets, jobs, bedding runs and events as last seen. */
export const KEPT_ANSWERS = new RegExp(
  "^/api/(session|symptoms|duties|circuits|fluids|classes|workshop/(overview|planner)|" +
    `machines(/\\d+(/(${OF_MACHINE}))?)?|` +
    "inspections/\\d+|jobs/\\d+(/(lasting|left-out))?|plans/\\d+|bedding-runs/\\d+|events/\\d+/ready)$",
);
/** Set on an answer that came from the device. */
export const FROM_DEVICE = "X-From-Device";

/** Whether the page can be opened again without a connection, once it is kept. */
export const keeps = () => "serviceWorker" in navigator && "caches" in globalThis;

const own = (url: string) => url.startsWith(location.origin);

let beginning: Promise<void> | null = null;

/** From now on the device keeps what is seen: the page, its code, and the last answer to each question. */
export function beginKeeping(): Promise<void> {
  beginning ??= begin().catch((error) => {
    beginning = null;
    throw error;
  });
  return beginning;
}

async function begin() {
  const since = navigator.serviceWorker.controller;
  await navigator.serviceWorker.register("/static/sw.js", { scope: "/" });
  await navigator.serviceWorker.ready;
  if (since) return;
  // What came before the worker did has passed it by.
  const used = performance.getEntriesByType("resource").map((entry) => entry.name);
  const listed = [...document.querySelectorAll<HTMLLinkElement>("link[href]")].map((link) => link.href);
  const scripts = [...document.querySelectorAll<HTMLScriptElement>("script[src]")].map(
    (script) => script.src,
  );
  const code = [...used, ...listed, ...scripts].filter((url) => own(url) && url.includes("/static/assets/"));
  const kept = await caches.open(CODE);
  await Promise.all([...new Set(code)].map((url) => addTo(kept, url)));
  await (await caches.open(PAGE)).add(new Request("/", { cache: "reload" }));
  const answers = used.filter((url) => own(url) && KEPT_ANSWERS.test(new URL(url).pathname));
  await keepAnswers([...new Set(answers)]);
}

// One that is gone on the server since is no reason not to keep the others.
const addTo = (kept: Cache, url: string) => kept.add(url).catch(() => undefined);

async function keepAnswers(urls: string[]) {
  const kept = await caches.open(ANSWERS);
  await Promise.all(urls.map((url) => addTo(kept, url)));
}

/** Keep an answer that came by another way than its address: with a change, or to a question that has none. */
export async function keepAnswer(url: string, data: unknown): Promise<void> {
  if (!keeps()) return;
  const headers = { "Content-Type": "application/json" };
  await (await caches.open(ANSWERS)).put(url, new Response(JSON.stringify(data), { headers }));
}

/** What was kept so; undefined where nothing was. */
export async function keptAnswer<T>(url: string): Promise<T | undefined> {
  if (!keeps()) return undefined;
  const found = await (await caches.open(ANSWERS)).match(url);
  return found && ((await found.json()) as T);
}

/** Keep the page that is open, and the answers it was drawn from; ended, it opens without a connection. */
export async function keepThisPage(answers: string[]): Promise<void> {
  if (!keeps()) return;
  await beginKeeping();
  await keepAnswers(answers);
}

/** Told whether another version of the page has come, which waits until nothing of this one is open. */
export async function onNewVersion(tell: (waits: boolean) => void): Promise<void> {
  if (!keeps()) return;
  const registration = await navigator.serviceWorker.ready;
  const look = () => tell(registration.waiting !== null);
  const follow = (worker: ServiceWorker | null) => worker?.addEventListener("statechange", look);
  // One that waited for the page before this one begins while this one is drawn.
  follow(registration.waiting);
  registration.addEventListener("updatefound", () => follow(registration.installing));
  look();
}

/** Forget every answer: whoever sits here next asks for their own. */
export async function forgetAnswers(): Promise<void> {
  if ("caches" in globalThis) await caches.delete(ANSWERS);
}
