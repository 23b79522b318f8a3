// @vitest-environment jsdom
import "fake-indexeddb/auto";
import { afterEach, beforeEach, expect, it, vi } from "vitest";

// A page of its own each time it is loaded, on the same device.
async function load() {
  vi.resetModules();
  return { chest: await import("./chest"), store: await import("./store") };
}

const ahead = () => Object.keys(localStorage).filter((key) => key.startsWith("thermaxis.draft/"));

beforeEach(async () => {
  localStorage.clear();
  const { chest } = await load();
  await Promise.all(["ada/", "ben/", "pictures/", "/pictures/"].map(chest.clear));
});
afterEach(() => vi.restoreAllMocks());

it("what is kept is there for the next page, and nowhere twice", async () => {
  const { store } = await load();
  await store.setPerson("ada");
  const draft = store.createDraft<number[]>([], "m1.job.7");
  draft.set([1]);
  draft.set([1, 2]);
  expect(ahead()).toEqual(["thermaxis.draft/ada/m1.job.7"]);
  await vi.waitFor(() => expect(ahead()).toEqual([]));
  const next = (await load()).store;
  const again = next.createDraft<number[]>([], "m1.job.7");
  expect(again.get()).toEqual([]);
  await next.setPerson("ben");
  expect(again.get()).toEqual([]);
  await next.setPerson("ada");
  expect(again.get()).toEqual([1, 2]);
  again.set([]);
  await vi.waitFor(() => expect(ahead()).toEqual([]));
  const last = (await load()).store;
  await last.setPerson("ada");
  expect(last.draftsWaiting()).toBe(0);
});

it("a page that was gone before its last word was written has still said it", async () => {
  const { chest } = await load();
  chest.keep("ada/a", "old");
  chest.keep("ada/b", "old");
  await vi.waitFor(() => expect(ahead()).toEqual([]));
  // What a page leaves that is closed at once; one thing as it was kept before there was a second place.
  localStorage.setItem("thermaxis.draft/ada/a", JSON.stringify({ value: "new" }));
  localStorage.setItem("thermaxis.draft/ada/b", "gone");
  localStorage.setItem("thermaxis.draft/ada/c", JSON.stringify([3]));
  localStorage.setItem("thermaxis.draft/ada/d", "{damaged");
  const found = await (await load()).chest.all("ada/");
  expect(Object.fromEntries(found)).toEqual({ a: "new", c: [3] });
});

it("what is too large for the first place is kept in the second", async () => {
  const { store } = await load();
  await store.setPerson("ada");
  const full = vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
    throw new DOMException("full", "QuotaExceededError");
  });
  const large = "x".repeat(6_000_000);
  store.createDraft("", "large").set(large);
  await store.pictures.set("photo-1", new Blob(["picture"]));
  full.mockRestore();
  const next = (await load()).store;
  await next.setPerson("ada");
  expect(next.createDraft("", "large").get()).toBe(large);
  expect(next.draftsWaiting()).toBe(1);
  expect(await next.pictures.get("photo-1")).toBeDefined();
});

it("signing out takes everything of a person off the device, pictures too, and nothing of another's", async () => {
  const { chest, store } = await load();
  for (const name of ["ben", "ada"]) {
    await store.setPerson(name);
    store.createDraft("", "words").set(name);
    await store.pictures.set("photo-2", new Blob([name]));
  }
  await store.clearDrafts();
  for (const [name, there] of [
    ["ada", [[], []]],
    ["ben", [["words"], ["photo-2"]]],
  ])
    expect(
      await Promise.all(
        [`${name}/`, `/pictures/${name}/`].map(async (at) => [...(await chest.all(at)).keys()]),
      ),
    ).toEqual(there);
});

it("somebody called pictures has nothing of anybody's pictures", async () => {
  const { chest, store } = await load();
  await store.setPerson("ada");
  await store.pictures.set("photo-3", new Blob(["ada"]));
  await store.setPerson("pictures");
  expect(store.draftsWaiting()).toBe(0);
  await store.clearDrafts();
  expect([...(await chest.all("/pictures/ada/")).keys()]).toEqual(["photo-3"]);
});
