// A value outside React that components can follow: settings, what-if sliders.
import { useSyncExternalStore } from "react";

export type Store<T> = {
  get: () => T;
  set: (value: T) => void;
  subscribe: (listener: () => void) => () => void;
};

export function createStore<T>(initial: T, key?: string): Store<T> {
  let value = initial;
  if (key) {
    try {
      const kept = localStorage.getItem(key);
      if (kept !== null) value = JSON.parse(kept) as T;
    } catch {
      value = initial; // storage switched off or unreadable: start from the default
    }
  }
  const listeners = new Set<() => void>();
  return {
    get: () => value,
    set: (next) => {
      value = next;
      if (key) {
        try {
          localStorage.setItem(key, JSON.stringify(next));
        } catch {
          // Without storage the setting lives until the page closes.
        }
      }
      for (const listener of listeners) listener();
    },
    subscribe: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}

export function useStore<T>(store: Store<T>): T {
  return useSyncExternalStore(store.subscribe, store.get);
}
