/** What waits between page loads and is small. Other tabs keep theirs in the same place. */
export interface KeptList<T> {
  all(): readonly T[];
  /** Keeps what waits here, beside what others keep there; what has gone is taken out. */
  keep(waiting: readonly T[], gone: T | null): void;
}

/** In the browser’s plain store. `read` takes what may be of an older version by its names of today. */
export function keptList<T>(
  name: string,
  keyOf: (item: T) => string,
  read: (text: string) => unknown = JSON.parse,
): KeptList<T> {
  const all = (): readonly T[] => {
    try {
      const list: unknown = read(localStorage.getItem(name) ?? "[]");
      return Array.isArray(list) ? (list as T[]) : [];
    } catch {
      return [];
    }
  };
  return {
    all,
    keep: (waiting, gone) => {
      const own = new Set([...waiting, ...(gone === null ? [] : [gone])].map(keyOf));
      const list = [...all().filter((item) => !own.has(keyOf(item))), ...waiting];
      try {
        if (list.length) localStorage.setItem(name, JSON.stringify(list));
        else localStorage.removeItem(name);
      } catch {
        // A full or forbidden store: what waits still lives in this page.
      }
    },
  };
}
