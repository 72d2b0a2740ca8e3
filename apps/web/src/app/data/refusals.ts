import { signal, type Signal } from "@angular/core";
import { keptList } from "./kept-list";

/** What the server would not have, with its words: it outlives the page, until somebody has read it. */
export interface Refusals<T> {
  readonly all: Signal<readonly T[]>;
  add(one: T): void;
  read(key: string): void;
}

/** In the browser’s plain store, as what waits is. */
export function refusals<T>(name: string, keyOf: (one: T) => string, read?: (text: string) => unknown): Refusals<T> {
  const kept = keptList<T>(name, keyOf, read);
  const all = signal<readonly T[]>(kept.all());
  return {
    all: all.asReadonly(),
    add: (one) => {
      all.update((before) => [...before, one]);
      kept.keep(all(), null);
    },
    read: (key) => {
      const gone = all().find((one) => keyOf(one) === key);
      if (gone === undefined) return;
      all.update((before) => before.filter((one) => one !== gone));
      kept.keep(all(), gone);
    },
  };
}
