import { expect, it } from "vitest";
import { ProblemError } from "./client";
import { Sender } from "./outbox";

class Words extends Sender<string, void> {
  waiting = ["first", "second"];
  refused: string[] = [];
  retries: (() => void)[] = [];
  kind = "somebody-else";

  constructor() {
    super((retry) => this.retries.push(retry));
  }

  protected next = () => this.waiting[0] ?? null;
  protected settle = () => {
    this.waiting.shift();
  };
  protected refuse = (batch: string) => {
    this.refused.push(batch);
    this.waiting.shift();
  };
  protected deliver = () =>
    this.kind
      ? Promise.reject(
          new ProblemError({
            type: `/problems/${this.kind}`,
            title: "t",
            status: 409,
            detail: "d",
            fields: [],
          }),
        )
      : Promise.resolve();
}

it("keeps what waits while the browser is signed in as somebody else", async () => {
  const outbox = new Words();
  await outbox.flush();
  expect([outbox.waiting, outbox.refused]).toEqual([["first", "second"], []]);
  // Any other refusal is final: trying again would change nothing.
  outbox.kind = "changed";
  await outbox.flush();
  expect([outbox.waiting, outbox.refused]).toEqual([[], ["first", "second"]]);
  // Their own person is back.
  outbox.waiting = ["third"];
  outbox.kind = "";
  outbox.retries[0]?.();
  await Promise.resolve();
  await outbox.flush();
  expect(outbox.waiting).toEqual([]);
});
