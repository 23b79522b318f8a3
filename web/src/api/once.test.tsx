import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { expect, test } from "vitest";
import { useOnce } from "./once";

/** A change that is answered when the test says so. */
function changing<Sent>() {
  const sent: { content: Sent; answer: (went: boolean) => void }[] = [];
  const around = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
  );
  const mutationFn = (content: Sent) =>
    new Promise<string>((resolve, reject) => {
      sent.push({ content, answer: (went) => (went ? resolve("kept") : reject(new Error("lost"))) });
    });
  const { result } = renderHook(() => useOnce({ mutationFn }), { wrapper: around });
  return { sent, change: (content: Sent) => act(() => result.current.mutate(content)), result };
}

test("the same content goes out once until it is answered, well or not", async () => {
  const { sent, change, result } = changing<{ name: string }>();
  change({ name: "Two ramps" });
  change({ name: "Two ramps" });
  await waitFor(() => expect(sent).toHaveLength(1));
  sent[0]?.answer(false);
  await waitFor(() => expect(result.current.isError).toBe(true));
  change({ name: "Two ramps" });
  await waitFor(() => expect(sent).toHaveLength(2));
});

test("there and back and there again are three changes", async () => {
  const { sent, change } = changing<boolean>();
  for (const removed of [true, false, true]) change(removed);
  await waitFor(() => expect(sent.map(({ content }) => content)).toEqual([true, false, true]));
});

test("two files are two contents", async () => {
  const { sent, change } = changing<File>();
  change(new File(["a"], "club.csv", { lastModified: 1 }));
  change(new File(["b"], "club.csv", { lastModified: 2 }));
  await waitFor(() => expect(sent).toHaveLength(2));
});
