// A value outside React that components can follow: settings, drafts, what-if sliders.
import { useSyncExternalStore } from "react";
import { createStore as createHeld } from "zustand/vanilla";

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
const DRAFTS = "thermaxis.draft/";
let person: string | null = null;
const loads = new Set<() => void>();
const place = (key: string) => `${DRAFTS}${person}/${key}`;

/** A value that is the signed-in person's alone; it outlives a reload and goes when they sign out. */
export function createDraft<T>(initial: T, key: string): Store<T> {
  const kept = () => (person === null ? initial : read(place(key), initial));
  const store = holder(kept(), (value) => {
    if (person === null) return;
    if (JSON.stringify(value) === JSON.stringify(initial)) localStorage.removeItem(place(key));
    else write(place(key), value);
  });
  loads.add(() => store.put(kept()));
  return store;
}

/** Who is signed in: their drafts are there, nobody else's. */
export function setPerson(name: string | null) {
  if (name === person) return;
  person = name;
  for (const load of loads) load();
}

const draftKeys = () => Object.keys(localStorage).filter((key) => key.startsWith(place("")));

/** How many drafts of the signed-in person wait on this device. */
export function draftsWaiting(): number {
  return person === null ? 0 : draftKeys().length;
}

/** Take the signed-in person's drafts off this device. */
export function clearDrafts() {
  for (const key of draftKeys()) localStorage.removeItem(key);
  for (const load of loads) load();
}

export function useStore<T>(store: Store<T>): T {
  return useSyncExternalStore(store.subscribe, store.get);
}
