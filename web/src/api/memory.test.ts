import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, it } from "vitest";
import { type Problem, ProblemError } from "./client";
import { newMemory } from "./memory";

const problem = (status: number, type: string): Problem => ({
  type: `/problems/${type}`,
  title: "x",
  status,
  detail: "x",
  fields: [],
});

async function asked(...answers: (string | Problem)[]) {
  const left = [...answers];
  const queries = new QueryClient({ queryCache: newMemory(), defaultOptions: { queries: { retry: false } } });
  const observer = new QueryObserver(queries, {
    queryKey: ["job", 1],
    queryFn: async () => {
      const next = left.shift();
      if (typeof next === "string") return next;
      throw next ? new ProblemError(next) : new Error("nothing left");
    },
  });
  const stop = observer.subscribe(() => undefined);
  for (const _ of answers.slice(1)) await observer.refetch();
  await observer.refetch({ cancelRefetch: false });
  const { data, status } = observer.getCurrentResult();
  stop();
  return [data, status];
}

it("keeps what is on the page where nobody answers, and nothing where there was nothing", async () => {
  const nobody = problem(0, "unreachable");
  expect(await asked("a sheet", nobody, nobody)).toEqual(["a sheet", "success"]);
  expect(await asked(nobody, nobody)).toEqual([undefined, "error"]);
  // What the server says of it is said.
  expect((await asked("a sheet", problem(404, "not-there"), problem(404, "not-there")))[1]).toBe("error");
});
