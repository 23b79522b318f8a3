// A value outside React that components can follow: settings, drafts, what-if sliders.
import { useSyncExternalStore } from "react";
import { createStore as createHeld } from "zustand/vanilla";
import * as chest from "./chest";

export type Store<T> = {
  get: () => T;
  set: (value: T) => void;
  subscribe: (listener: () => void) => () => void;
};

function read<T>(key: string, otherwise: T): T {
  try {
    const kept = localStorage.getItem(key);
    return kept === null ? otherwise : (JSON.parse(kept) as T);
  } catch {
    return otherwise; // storage switched off or unreadable: start from the default
  }
}

function write(key: string, value: unknown) {
  try {
    localStorage.setItem(key, JSON.stringify(value));
  } catch {
    // Without storage the value lives until the page closes.
  }
}

function holder<T>(initial: T, changed: (value: T) => void): Store<T> & { put: (value: T) => void } {
  const kept = createHeld<{ value: T }>()(() => ({ value: initial }));
  // As an object of its own: the same value set again is another value.
  const put = (value: T) => kept.setState({ value }, true);
  return {
    get: () => kept.getState().value,
    put,
    set: (next) => {
      changed(next);
      put(next);
    },
    subscribe: (listener) => kept.subscribe(listener),
  };
}

/** A value; with a key it is the device's, whoever sits before it: units, daylight or evening. */
export function createStore<T>(initial: T, key?: string): Store<T> {
  return holder(key ? read(key, initial) : initial, (value) => key && write(key, value));
}

// What somebody typed and has not sent is theirs: another person on the same device does not see it.
let person: string | null = null;
let opening: Promise<void> = Promise.resolve();
/** Of the person who is signed in: what lies on this device, by its key. */
const held = new Map<string, unknown>();
const loads = new Set<() => void>();
const place = (key: string) => `${person}/${key}`;
// No name of a person begins so: nobody's drafts lie among pictures.
const pictureAt = (token: string) => `/pictures/${place(token)}`;

/** Told anew whenever something else is held. */
export const heldStore = createStore(0);
const changed = () => heldStore.set(heldStore.get() + 1);

/** A value that is the signed-in person's alone; it outlives a reload and goes when they sign out. */
export function createDraft<T>(initial: T, key: string): Store<T> {
  const kept = () => (held.has(key) ? (held.get(key) as T) : initial);
  const store = holder(kept(), (value) => {
    if (person === null) return;
    if (JSON.stringify(value) === JSON.stringify(initial)) {
      if (held.delete(key)) chest.forget(place(key));
    } else {
      held.set(key, value);
      chest.keep(place(key), value);
    }
    changed();
  });
  loads.add(() => store.put(kept()));
  return store;
}

/** A picture that waits to be sent; it goes when it is, or when the person signs out. */
export const pictures = {
  get: (token: string) => chest.fileOf(pictureAt(token)),
  set: (token: string, file: Blob) => chest.keepFile(pictureAt(token), file),
  del: async (token: string) => chest.forget(pictureAt(token)),
};

function open() {
  for (const load of loads) load();
  changed();
}

/** Who is signed in: once this has ended their drafts are there, and at once nobody else's. */
export function setPerson(name: string | null): Promise<void> {
  if (name === person) return opening;
  person = name;
  held.clear();
  open();
  opening = name === null ? Promise.resolve() : fill(name);
  return opening;
}

async function fill(name: string) {
  const found = await chest.all(`${name}/`);
  if (person !== name) return;
  for (const [key, value] of found) if (!held.has(key)) held.set(key, value);
  open();
}

/** What is held of the signed-in person, by its key. */
export const heldOnes = (): ReadonlyMap<string, unknown> => held;

/** What only shows again what was seen, and waits for nothing. */
export const SEEN = ".seen";

/** How many drafts of the signed-in person wait on this device. */
export function draftsWaiting(): number {
  return [...held.keys()].filter((key) => !key.endsWith(SEEN)).length;
}

/** Take the signed-in person's drafts off this device. */
export async function clearDrafts(): Promise<void> {
  const prefixes = [place(""), pictureAt("")];
  held.clear();
  open();
  await Promise.all(prefixes.map(chest.clear));
}

export function useStore<T>(store: Store<T>): T {
  return useSyncExternalStore(store.subscribe, store.get);
}
