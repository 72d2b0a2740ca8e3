import { signal } from "@angular/core";
import type { KeptBlobs } from "./kept-blobs";

interface Refusable {
  /** The server would not have it, in its words. */
  readonly refusal?: string | undefined;
}

/** What the server would not have and is too large for the plain store: kept, with its words, till somebody read them. */
export class RefusedBlobs<T extends Refusable> {
  private readonly state = signal<readonly T[]>([]);
  readonly all = this.state.asReadonly();

  constructor(
    private readonly store: KeptBlobs<T>,
    private readonly keyOf: (item: T) => string,
  ) {}

  /** Takes up what an earlier page left; what was not refused is given back. */
  recall(left: readonly T[]): readonly T[] {
    const known = new Set(this.all().map(this.keyOf));
    const unknown = left.filter((item) => !known.has(this.keyOf(item)));
    this.state.update((all) => [...all, ...unknown.filter((item) => item.refusal !== undefined)]);
    return unknown.filter((item) => item.refusal === undefined);
  }

  add(item: T, refusal: string): void {
    this.state.update((all) => [...all, { ...item, refusal }]);
  }

  /** It waits no longer: kept as refused, or not at all. A browser that forbids a store keeps none. */
  settle(item: T): void {
    const refused = this.all().find((one) => this.keyOf(one) === this.keyOf(item));
    const kept = refused ? this.store.put(refused) : this.store.remove(this.keyOf(item));
    void kept.catch(() => undefined);
  }

  read(key: string): void {
    this.state.update((all) => all.filter((one) => this.keyOf(one) !== key));
    void this.store.remove(key).catch(() => undefined);
  }
}
