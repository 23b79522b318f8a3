import createClient, { type Middleware } from "openapi-fetch";
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
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
};

export const client = createClient<paths>({
  baseUrl: globalThis.location?.origin ?? "",
  fetch: (request) => globalThis.fetch(request),
});
client.use(csrf);

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

export function problemText(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
