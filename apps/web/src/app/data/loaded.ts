import { DestroyRef, inject, signal } from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import type { Observable, Subscription } from "rxjs";
import { Changes } from "./changes";
import { saidIn } from "./problems";

/**
 * Something a place shows, asked for once and again: what came, or why it did not.
 * An answer that is overtaken by a later question counts no more. Made where inject() may be used.
 *
 * @example
 * protected readonly machines = new Loaded(() => this.api.call("machines"));
 * // in the template: machines.value(), machines.message(), machines.again()
 */
export class Loaded<T> {
  readonly value = signal<T | null>(null);
  readonly message = signal("");
  private asking: Subscription | null = null;

  constructor(
    private readonly ask: () => Observable<T>,
    private readonly came: (value: T) => void = () => undefined,
  ) {
    inject(DestroyRef).onDestroy(() => this.asking?.unsubscribe());
  }

  again(): void {
    this.message.set("");
    this.asking?.unsubscribe();
    this.asking = this.ask().subscribe({
      next: (value) => {
        this.value.set(value);
        this.came(value);
      },
      error: saidIn(this.message),
    });
  }

  /** Looks again whenever others change what has these words in its address; what cannot be had then stays as it is. */
  alive(...words: readonly string[]): this {
    inject(Changes)
      .of(...words)
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.look());
    return this;
  }

  private look(): void {
    if (this.value() === null) return;
    this.asking?.unsubscribe();
    this.asking = this.ask().subscribe({
      next: (value) => this.value.set(value),
      error: () => undefined,
    });
  }

  /** Asked for at once. */
  static now<T>(ask: () => Observable<T>, came?: (value: T) => void): Loaded<T> {
    const loaded = new Loaded(ask, came);
    loaded.again();
    return loaded;
  }
}
