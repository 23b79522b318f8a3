import { expect, it } from "vitest";
import { keyOf, pathOf, waitingIn, wordsOf } from "./waiting";

it("counts what is to be sent and what somebody has to look at, and says where", () => {
  const rows = waitingIn(
    new Map<string, unknown>([
      ["adding", { owner: "a draft is no outbox" }],
      [keyOf(1, "inspection", 9), { a: { state: "waiting" }, b: { state: "asks" }, c: { state: "clash" } }],
      [keyOf(2, "job", 5), [{}, {}]],
      [`${keyOf(2, "job", 5)}.refused`, { "": "no" }],
      [`${keyOf(3, "run", 4)}.refused`, "not now"],
      [keyOf(3, "events", 0), [{}]],
      ["run.4.seen", { run: null }],
    ]),
  );
  expect(rows.map((row) => [pathOf(row), row.waits, row.stuck])).toEqual([
    ["/m/1/inspect?sheet=9", 1, 2],
    ["/m/2/job?job=5", 2, 1],
    ["/m/3/bed/run/4", 0, 1],
    ["/m/3/life", 1, 0],
  ]);
  expect(wordsOf("inspection", 1)).toBe("1 entry of an inspection");
  expect(wordsOf("events", 2)).toBe("2 changes of the season");
});
