// @vitest-environment jsdom
import { afterEach, expect, it, vi } from "vitest";
import { actFor } from "./acting";
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

it("says with every write for whom the page sends, whoever is signed in by then", async () => {
  const seen = respond(200, {});
  const send = () =>
    answer(
      client.PUT("/api/machines/{machine_id}/duty", {
        params: { path: { machine_id: 1 } },
        body: { duty_id: 2 },
      }),
    );
  await send();
  actFor({ user: "Zoë/x", workshop_id: 3 });
  await send();
  actFor(null);
  expect(seen.map((request) => request.headers.get("X-Acts-For"))).toEqual([null, "Zo%C3%AB%2Fx/3"]);
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

it("gives a change a key of its own, the same until it is answered", async () => {
  const keys: (string | null)[] = [];
  let reply: () => Promise<Response> = () => Promise.reject(new TypeError("network"));
  vi.stubGlobal("fetch", (request: Request) => {
    keys.push(request.headers.get("Idempotency-Key"));
    return reply();
  });
  const keep = (name: string) =>
    answer(
      client.POST("/api/machines/{machine_id}/copy", {
        params: { path: { machine_id: 1 } },
        body: { name },
      }),
    ).catch(() => undefined);
  await keep("a");
  await keep("a");
  await keep("b");
  reply = async () => Response.json({ detail: "x" }, { status: 503 });
  await keep("a");
  reply = async () => Response.json({}, { status: 201 });
  await keep("a");
  await keep("a");
  expect(keys[0]).toMatch(/^[0-9a-f]{32}$/);
  expect([keys[1], keys[3], keys[4]]).toEqual([keys[0], keys[0], keys[0]]);
  expect(new Set([keys[0], keys[2], keys[5]]).size).toBe(3);
  // A form is known by its fields and its file, whatever boundary it is sent with.
  const form = () => {
    const body = new FormData();
    body.set("name", "run");
    body.set("file", new File(["t,v"], "run.csv"));
    return body;
  };
  reply = () => Promise.reject(new TypeError("network"));
  for (let sent = 0; sent < 2; sent += 1)
    await client
      .POST("/api/runs", { body: form() as never, bodySerializer: (body) => body as never })
      .catch(() => null);
  expect(keys[6]).toBe(keys[7]);
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
