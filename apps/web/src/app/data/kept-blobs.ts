import { createStore, del, get, keys, set } from "idb-keyval";

/** What waits between page loads and is too large for the plain store: photos, recordings. */
export interface KeptBlobs<T> {
  all(): Promise<readonly T[]>;
  put(item: T): Promise<void>;
  remove(key: string): Promise<void>;
}

/** In a database of its own in the browser: two stores of one database cannot be made one after the other. */
export function keptBlobs<T>(database: string, name: string, keyOf: (item: T) => string): KeptBlobs<T> {
  const store = createStore(database, name);
  return {
    all: async () => {
      const names = await keys<string>(store);
      const found = await Promise.all(names.map((key) => get<T>(key, store)));
      return found.filter((item) => item !== undefined);
    },
    // Async, so that a browser without such a store refuses the promise instead of the item.
    put: async (item) => set(keyOf(item), item, store),
    remove: async (key) => del(key, store),
  };
}
