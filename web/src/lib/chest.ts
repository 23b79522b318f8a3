// Where a device keeps what somebody typed and has not sent: in IndexedDB, which has room for pictures. That is written
// a moment later, and a page may be gone by then; so everything but a picture stands in localStorage until it is there.
// Where there is no IndexedDB it stays there.
import { createStore, promisifyRequest } from "idb-keyval";

const AHEAD = "thermaxis.draft/";
const GONE = "gone";

const store = typeof indexedDB === "undefined" ? null : createStore("thermaxis-kept", "kept");

/** One change of what is kept, on the disk before anything that is asked later. */
function write(change: (kept: IDBObjectStore) => void): Promise<unknown> {
  if (!store) return Promise.reject(new Error("no store on this device"));
  return store("readwrite", (kept) => {
    change(kept);
    // Said at once: a page that closes now does not take it back.
    kept.transaction.commit?.();
    return promisifyRequest(kept.transaction);
  });
}

/** Set down at once, then for good; it stays where it was set down if the other place does not take it. */
function writeAhead(key: string, ahead: string, change: (kept: IDBObjectStore) => void) {
  try {
    localStorage.setItem(AHEAD + key, ahead);
  } catch {
    // Too large for that, or switched off: it is then only in the other place.
  }
  write(change).then(
    () => localStorage.getItem(AHEAD + key) === ahead && localStorage.removeItem(AHEAD + key),
    () => undefined,
  );
}

export function keep(key: string, value: unknown) {
  writeAhead(key, JSON.stringify({ value }), (kept) => kept.put(value, key));
}

export function forget(key: string) {
  // Nothing of it is anywhere else.
  if (!store) localStorage.removeItem(AHEAD + key);
  else writeAhead(key, GONE, (kept) => kept.delete(key));
}

/** Pictures are too large to be set down twice: kept when this has ended. */
export async function keepFile(key: string, file: Blob): Promise<void> {
  await write((kept) => kept.put(file, key));
}

export async function fileOf(key: string): Promise<Blob | undefined> {
  if (!store) return undefined;
  return store("readonly", (kept) => promisifyRequest<Blob | undefined>(kept.get(key)));
}

/** What was kept before there was another place stands as it is. */
const unwrapped = (read: unknown) =>
  read !== null && typeof read === "object" && Object.keys(read).join() === "value"
    ? (read as { value: unknown }).value
    : read;

const under = (prefix: string) => IDBKeyRange.bound(prefix, `${prefix}\uffff`);

const aheadOf = (prefix: string) => Object.keys(localStorage).filter((key) => key.startsWith(AHEAD + prefix));

/** Everything whose key begins so, without what begins it. */
export async function all(prefix: string): Promise<Map<string, unknown>> {
  const found = new Map<string, unknown>();
  if (store)
    await store("readonly", async (kept) => {
      const [keys, values] = await Promise.all([
        promisifyRequest(kept.getAllKeys(under(prefix))),
        promisifyRequest(kept.getAll(under(prefix))),
      ]);
      for (const [index, key] of keys.entries()) found.set(String(key).slice(prefix.length), values[index]);
    }).catch(() => undefined);
  for (const key of aheadOf(prefix)) {
    const name = key.slice(AHEAD.length + prefix.length);
    const ahead = localStorage.getItem(key) ?? GONE;
    if (ahead === GONE) found.delete(name);
    else
      try {
        found.set(name, unwrapped(JSON.parse(ahead)));
      } catch {
        // Damaged: nothing can be read of it.
      }
  }
  return found;
}

/** Take everything whose key begins so off the device. */
export async function clear(prefix: string): Promise<void> {
  for (const key of aheadOf(prefix)) localStorage.removeItem(key);
  if (store) await write((kept) => kept.delete(under(prefix))).catch(() => undefined);
}
