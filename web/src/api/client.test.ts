// @vitest-environment jsdom
import { afterEach, expect, it, vi } from "vitest";
import { answer, client, ProblemError, problemText } from "./client";

afterEach(() => vi.unstubAllGlobals());

function respond(status: number, body: unknown) {
  const seen: Request[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    seen.push(request);
    return new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
  });
  return seen;
}

it("sends the CSRF token with every write", async () => {
  // biome-ignore lint/suspicious/noDocumentCookie: the test puts the cookie the server would set
  document.cookie = "csrftoken=abc123";
  const seen = respond(200, {});
  await answer(
    client.PUT("/api/machines/{machine_id}/duty", {
      params: { path: { machine_id: 1 } },
      body: { duty_id: 2 },
    }),
  );
  await answer(client.GET("/api/machines"));
  expect(seen[0]?.headers.get("X-CSRFToken")).toBe("abc123");
  expect(seen[1]?.headers.get("X-CSRFToken")).toBeNull();
});

it("throws the problem the server described", async () => {
  const problem = {
    type: "/problems/field",
    title: "t",
    status: 422,
    detail: "'mass_kg' must be > 0",
    fields: [],
  };
  respond(422, problem);
  const failure = await answer(client.GET("/api/machines")).catch((error: unknown) => error);
  expect(failure).toBeInstanceOf(ProblemError);
  expect(problemText(failure)).toBe("'mass_kg' must be > 0");
});

it("says that nothing is lost when the server does not answer", async () => {
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("network")));
  const failure = await answer(client.GET("/api/machines")).catch((error: unknown) => error);
  expect(problemText(failure)).toContain("What you typed is still here");
});

it("lets an aborted request go by as one", async () => {
  vi.stubGlobal("fetch", () => Promise.reject(new DOMException("stop", "AbortError")));
  const failure = await answer(client.GET("/api/machines")).catch((error: unknown) => error);
  expect(failure).toBeInstanceOf(DOMException);
});
