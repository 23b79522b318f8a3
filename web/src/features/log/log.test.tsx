import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { draw } from "../../testing/page.test.helper";
import { LogPage } from "./Log";

const entry: Schemas["LogOut"] = {
  id: 5,
  on: "2026-11-20",
  made_at: "2026-11-20T10:00:00Z",
  kind: "note",
  act: "write_note",
  summary: "Written by hand",
  text: "Rear discs skimmed",
  cost: 9.5,
  machine_id: null,
  machine: null,
  odometer_km: null,
  user_name: "ada",
  things: [],
  changes: [],
  photos: [],
  by_hand: true,
  from_file: false,
  removed: false,
};

it("sends the same picture under the same name of its own, on a page without TLS as well", async () => {
  // A browser has it on safe pages only.
  vi.stubGlobal("crypto", { getRandomValues: crypto.getRandomValues.bind(crypto), subtle: crypto.subtle });
  const asked = draw(<LogPage />, {
    "GET /api/log": { entries: [entry], more: false, kinds: [], people: ["ada"], currency: "£" },
    "POST /api/log/5/photos": { id: 1 },
  });
  await userEvent.click(await screen.findByRole("button", { name: "more" }));
  screen.getByText(/ada · £9\.50/);
  const chooser = screen.getByLabelText<HTMLInputElement>("Add a picture");
  const picture = (bytes: string) => new File([bytes], "a.jpg", { type: "image/jpeg", lastModified: 1 });
  const token = () =>
    /name="token"\s+(\S+)/.exec(String(asked.findLast((one) => one.method === "POST")?.body))?.[1];
  await userEvent.upload(chooser, picture("one"));
  await vi.waitFor(() => expect(token()).toBeDefined());
  const first = token();
  expect(first).toMatch(/^.{8,40}$/);
  const before = asked.length;
  await userEvent.upload(chooser, picture("one"));
  await vi.waitFor(() => expect(asked.slice(before).some((one) => one.method === "POST")).toBe(true));
  expect(token()).toBe(first);
  await userEvent.upload(chooser, picture("another"));
  await vi.waitFor(() => expect(token()).not.toBe(first));
});
