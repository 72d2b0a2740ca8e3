import { DestroyRef, inject, signal } from "@angular/core";
import type { Problem } from "@iron/contract";
import type { Observable } from "rxjs";
import { problemFrom } from "../data/problems";

const RETRY_MS = 3000;

export interface OutboxOptions<T, R> {
  readonly keyOf: (item: T) => string;
  readonly send: (item: T) => Observable<R>;
  readonly taken: (answer: R, item: T) => void;
  /** The server will not have it: it is let go, and the rest goes on. */
  readonly refused: (problem: Problem, item: T) => void;
  /** Told of everything that waits, to keep it where it outlives the page. */
  readonly changed?: (waiting: readonly T[], gone: T | null) => void;
  /** False while nothing can be sent yet. */
  readonly ready?: () => boolean;
}

/**
 * What is on its way to the server: sent in order, each until it was taken or refused; without a
 * connection it waits and tries again by itself. Made in an injection context.
 */
export class Outbox<T, R> {
  private sending = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  readonly waiting = signal<readonly T[]>([]);
  readonly offline = signal(false);

  constructor(private readonly options: OutboxOptions<T, R>) {
    const online = (): void => this.flush();
    window.addEventListener("online", online);
    inject(DestroyRef).onDestroy(() => {
      window.removeEventListener("online", online);
      if (this.timer) clearTimeout(this.timer);
    });
  }

  add(item: T): void {
    this.set([...this.waiting(), item], null);
    this.flush();
  }

  /** Begins with what an earlier page left behind. */
  recall(left: readonly T[]): void {
    this.waiting.set(left);
  }

  flush(): void {
    const first = this.waiting().at(0);
    if (first === undefined || this.sending) return;
    if (this.options.ready && !this.options.ready()) return;
    this.sending = true;
    const settle = (): void => {
      this.sending = false;
      const key = this.options.keyOf(first);
      this.set(
        this.waiting().filter((w) => this.options.keyOf(w) !== key),
        first,
      );
      this.flush();
    };
    this.options.send(first).subscribe({
      next: (answer) => {
        this.offline.set(false);
        this.options.taken(answer, first);
        settle();
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        if (problem.status === 0 || problem.status >= 500) {
          this.offline.set(true);
          this.sending = false;
          this.retryLater();
          return;
        }
        this.options.refused(problem, first);
        settle();
      },
    });
  }

  private set(waiting: readonly T[], gone: T | null): void {
    this.waiting.set(waiting);
    this.options.changed?.(waiting, gone);
  }

  private retryLater(): void {
    this.timer ??= setTimeout(() => {
      this.timer = null;
      this.flush();
    }, RETRY_MS);
  }
}
