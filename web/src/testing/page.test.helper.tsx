// A page for component tests: queries, a router, and a server that answers from a table and remembers what it was asked.
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { vi } from "vitest";

export type Asked = { method: string; path: string; body: unknown };
type Answer = unknown | ((asked: Asked) => unknown);

/** An answer with a status of its own. */
export class Refused {
  constructor(
    readonly status: number,
    readonly document: unknown,
  ) {}
}

/** Draw `page` over a server that knows these answers, by "METHOD /path"; gives what was asked of it. */
export function draw(page: ReactNode, answers: Record<string, Answer>): Asked[] {
  const asked: Asked[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const text = await request.text();
    const one = {
      method: request.method,
      path: new URL(request.url).pathname,
      // A form is kept as it goes over the line.
      body: text ? (text.startsWith("--") ? text : JSON.parse(text)) : null,
    };
    asked.push(one);
    const found = answers[`${one.method} ${one.path}`];
    if (found === undefined) throw new Error(`nobody answers ${one.method} ${one.path}`);
    const answer = typeof found === "function" ? (found as (asked: Asked) => unknown)(one) : found;
    const refused = answer instanceof Refused;
    return new Response(JSON.stringify(refused ? answer.document : answer), {
      status: refused ? answer.status : 200,
      headers: { "Content-Type": "application/json" },
    });
  });
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 60_000 } } });
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter>{page}</MemoryRouter>
    </QueryClientProvider>,
  );
  return asked;
}

export const session = { user: "demo", workshop: "Tarnside Brake & Chassis", currency: "£" };
