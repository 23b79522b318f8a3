// What this device keeps of pages and answers, so that a run card opens in a car park without a connection.

export const CODE = "thermaxis-code";
export const PAGE = "thermaxis-page";
export const ANSWERS = "thermaxis-answers";
/** Answers that are kept: who is signed in, which machines there are, bedding runs. */
export const KEPT_ANSWERS = /^\/api\/(session|machines(\/\d+)?|bedding-runs\/\d+)$/;
/** Set on an answer that came from the device. */
export const FROM_DEVICE = "X-From-Device";

/** Whether the page can be opened again without a connection, once it is kept. */
export const keeps = () => "serviceWorker" in navigator && "caches" in globalThis;

const own = (url: string) => url.startsWith(location.origin);

/** Keep the page that is open: its code, its frame, and the answers it was drawn from. */
export async function keepThisPage(answers: string[]): Promise<void> {
  if (!keeps()) return;
  await navigator.serviceWorker.register("/static/sw.js", { scope: "/" });
  await navigator.serviceWorker.ready;
  const used = performance.getEntriesByType("resource").map((entry) => entry.name);
  const listed = [...document.querySelectorAll<HTMLLinkElement>("link[href]")].map((link) => link.href);
  const scripts = [...document.querySelectorAll<HTMLScriptElement>("script[src]")].map(
    (script) => script.src,
  );
  const code = new Set(
    [...used, ...listed, ...scripts].filter((url) => own(url) && url.includes("/static/assets/")),
  );
  const kept = await caches.open(CODE);
  // One that is gone on the server since is no reason not to keep the others.
  await Promise.all([...code].map((url) => kept.add(url).catch(() => undefined)));
  await (await caches.open(PAGE)).add(new Request("/", { cache: "reload" }));
  const said = await caches.open(ANSWERS);
  await Promise.all(answers.map((url) => said.add(url).catch(() => undefined)));
}

/** Forget every answer: whoever sits here next asks for their own. */
export async function forgetAnswers(): Promise<void> {
  if ("caches" in globalThis) await caches.delete(ANSWERS);
}
