import { describe, expect, it } from "vitest";
import sentences from "../../../tests/data/sentences.json";
import { type Said, saidText } from "./said";

describe("sentences", () => {
  it("read the same as Python's renderer makes them, in both systems", () => {
    expect(sentences.length).toBeGreaterThan(500);
    for (const { template, values, metric, imperial } of sentences) {
      const said = { template, values } as unknown as Said;
      expect(saidText(said, "metric"), template).toBe(metric);
      expect(saidText(said, "imperial"), template).toBe(imperial);
    }
  });
});
