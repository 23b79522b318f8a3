import createClient, { type Middleware } from "openapi-fetch";
import { FROM_DEVICE, found, lost } from "../lib/connection";
import { refusedText } from "../lib/refusals";
import { systemStore } from "../lib/settings";
import { actsFor } from "./acting";
import { signedInAgain } from "./expired";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** What went wrong, as the server said it; `fields` name what is not allowed. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

function cookie(name: string): string {
  return document.cookie.match(`(?:^|; )${name}=([^;]*)`)?.[1] ?? "";
}

const csrf: Middleware = {
  onRequest({ request }) {
    if (request.method === "GET") return request;
    request.headers.set("X-CSRFToken", cookie("csrftoken"));
    const whose = actsFor();
    if (whose !== null) request.headers.set("X-Acts-For", whose);
    return request;
  },
};

// A proxy says so where the server behind it does not run; the server's own words are JSON.
const NOBODY_THERE = [0, 502, 503, 504];
const isProxyAlone = ({ status, headers }: Response) =>
  NOBODY_THERE.includes(status) && !headers.get("Content-Type")?.includes("json");

// What a request carries, as it cannot be read twice: sent again where the session had ended.
const bodies = new WeakMap<Request, ArrayBuffer>();

/** Send; where the session has ended meanwhile, wait for a sign-in and send the very same again. */
async function send(request: Request): Promise<Response> {
  let response: Response;
  try {
    response = await globalThis.fetch(request);
  } catch (error) {
    // A question that was taken back says nothing of the connection.
    if (!request.signal.aborted) lost();
    throw error;
  }
  // What a device kept of an answer is no connection.
  if (response.headers.has(FROM_DEVICE) || isProxyAlone(response)) lost();
  else found();
  if (response.status !== 401 || request.url.includes("/api/session")) return response;
  await signedInAgain();
  const body = bodies.get(request);
  const { method, url, headers, signal } = request;
  const again = new Request(url, { method, headers, signal, ...(body?.byteLength ? { body } : {}) });
  if (method !== "GET") again.headers.set("X-CSRFToken", cookie("csrftoken"));
  return globalThis.fetch(again);
}

// A change has a key of its own, so that what arrives twice is one change. Sent again because no answer came, it has the
// same key; once it is answered, the same words are another change.
const ONCE = "Idempotency-Key";
const unanswered = new Map<string, string>();

export function newKey(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) =>
    byte.toString(16).padStart(2, "0"),
  ).join("");
}

/** A short number of a file's bytes: the same file again, not another one of the same length. */
function digest(bytes: Uint8Array): number {
  let found = 0x811c9dc5;
  for (const byte of bytes) found = Math.imul(found ^ byte, 0x01000193) >>> 0;
  return found;
}

/** What tells one change from another. A form is known by its fields and files, as its boundary is new each time. */
async function printOf(request: Request, body: ArrayBuffer): Promise<string> {
  const said: string[] = [request.method, request.url];
  const media = request.headers.get("Content-Type") ?? "";
  if (media.startsWith("multipart/")) {
    const form = await new Response(body, { headers: { "Content-Type": media } }).formData();
    for (const [name, value] of form)
      said.push(name, value instanceof File ? `${digest(new Uint8Array(await value.arrayBuffer()))}` : value);
  } else said.push(new TextDecoder().decode(body));
  return JSON.stringify(said);
}

const prints = new WeakMap<Request, string>();
const once: Middleware = {
  async onRequest({ request: given }) {
    if (given.method === "GET" || given.url.includes("/api/work/")) return given;
    // Read and put back whole: a copy of a request is sent as a stream, which takes longer.
    const body = await given.arrayBuffer();
    const request = body.byteLength > 0 ? new Request(given, { body }) : given;
    const print = await printOf(request, body);
    // One that outlives the page brings the key it was sent with first.
    const key = request.headers.get(ONCE) ?? unanswered.get(print) ?? newKey();
    unanswered.set(print, key);
    prints.set(request, print);
    bodies.set(request, body);
    request.headers.set(ONCE, key);
    return request;
  },
  onResponse({ request, response }) {
    const print = prints.get(request);
    // A fault of the server's may have come before or after the change was kept: asked again, it says which.
    if (print !== undefined && response.status < 500) unanswered.delete(print);
    return response;
  },
  onError({ request, error }) {
    const print = prints.get(request);
    // A question nobody wants any more, as a slider leaves behind by the dozen, is not remembered.
    if (print !== undefined && error instanceof DOMException && error.name === "AbortError")
      unanswered.delete(print);
  },
};

export const client = createClient<paths>({
  baseUrl: globalThis.location?.origin ?? "",
  fetch: send,
});
client.use(csrf, once);

const unreachable: Problem = {
  type: "/problems/unreachable",
  title: "No answer",
  status: 0,
  detail: "The server did not answer. What you typed is still here: try again.",
  fields: [],
};

/** Await an answer; throw its problem if there is one. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let result: { data?: T; error?: unknown; response: Response };
  try {
    result = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new ProblemError(unreachable);
  }
  if (result.error !== undefined || !result.response.ok) {
    const known = typeof result.error === "object" && result.error !== null && "detail" in result.error;
    throw new ProblemError(
      known ? (result.error as Problem) : { ...unreachable, status: result.response.status },
    );
  }
  return result.data as T;
}

/** Whether the server has too much to do just now: the same question may be answered in a moment. */
export function isBusy(error: unknown): boolean {
  return (
    error instanceof ProblemError && error.problem.status === 429 && error.problem.type.endsWith("/busy")
  );
}

/** Whether nothing answered: what was asked may be asked, or sent, again. */
export function isUnreachable(error: unknown): boolean {
  return (
    error instanceof ProblemError &&
    error.problem.type === unreachable.type &&
    NOBODY_THERE.includes(error.problem.status)
  );
}

/** Whether the browser is signed in for somebody else than this page: what it sends waits for its own person. */
export function isSomebodyElse(error: unknown): boolean {
  return error instanceof ProblemError && error.problem.type.endsWith("/somebody-else");
}

/** Whether somebody else has changed the same meanwhile: each field says what is kept and what came. */
export function isClash(problem: Problem): boolean {
  return problem.type.endsWith("/changed");
}

/** What went wrong, in the reader's words and units. */
export function problemText(error: unknown): string {
  if (error instanceof ProblemError && !isClash(error.problem))
    return refusedText(error.problem, systemStore.get());
  return error instanceof Error ? error.message : String(error);
}
