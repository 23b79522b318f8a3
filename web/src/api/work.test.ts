// @vitest-environment jsdom
import { describe, expect, it, vi } from "vitest";
import { followed } from "./work";

describe("followed work", () => {
  it("names each request by itself, and tells the server to stop when it is aborted", async () => {
    const calls: string[] = [];
    vi.stubGlobal("fetch", async (request: Request) => {
      calls.push(`${request.method} ${new URL(request.url).pathname}`);
      return new Response(null, { status: 204 });
    });
    const names: string[] = [];
    const control = new AbortController();
    const pending = followed("choose", control.signal, async (headers) => {
      names.push(headers["X-Work"]);
      control.abort();
      return 1;
    });
    await pending;
    await followed("choose", new AbortController().signal, async (headers) => names.push(headers["X-Work"]));
    expect(new Set(names).size).toBe(2);
    expect(calls).toEqual([`DELETE /api/work/${names[0]}`]);
    // Done work is not stopped by a later abort.
    const late = new AbortController();
    await followed("choose", late.signal, async () => 1);
    late.abort();
    expect(calls).toHaveLength(1);
    vi.unstubAllGlobals();
  });
});
