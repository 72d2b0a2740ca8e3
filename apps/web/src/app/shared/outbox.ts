import { computed, DestroyRef, effect, inject, signal, untracked } from "@angular/core";
import type { Problem } from "@iron/contract";
import type { Observable } from "rxjs";
import { Door } from "../data/door";
import { problemFrom } from "../data/problems";
import { Seals, type Sealable } from "../data/seals";
import { Waiting, type Held } from "../data/waiting";

const RETRY_MS = 3000;

/** Something on its way: whose it is, and what proves that. */
export interface OnItsWay {
  readonly by: string;
  readonly seal?: string | undefined;
}

export interface OutboxOptions<T extends OnItsWay, R> {
  readonly keyOf: (item: T) => string;
  readonly send: (item: T) => Observable<R>;
  readonly taken: (answer: R, item: T) => void;
  /** The server will not have it: it is let go, and the rest goes on. */
  readonly refused: (problem: Problem, item: T) => void;
  /** What of it is sealed, as it will be sent. */
  readonly sealable: (item: T) => Omit<Sealable, "by">;
  /** What is larger than what is sealed, and belongs to it. */
  readonly file?: (item: T) => Blob;
  /** Told of everything that waits, to keep it where it outlives the page. */
  readonly changed?: (waiting: readonly T[], gone: T | null) => void;
  /** It was sealed while it waits. */
  readonly sealed?: (item: T) => void;
  /** What waits for its own person keeps the rest waiting: each stands on what went before. */
  readonly inOrder?: boolean;
}

/**
 * What is on its way to the server: sent in order, each until it was taken or refused; without a connection it waits
 * and tries again by itself. Sealed as soon as it is made, it goes under its own name whoever is here then; what is
 * not waits for its own person, and lets the others’ pass. Made in an injection context.
 */
export class Outbox<T extends OnItsWay, R> {
  private readonly door = inject(Door);
  private readonly seals = inject(Seals);
  private sending = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private readonly beingSealed = new Set<string>();
  /** What waits for its own person, by key. */
  private readonly apart = signal<ReadonlySet<string>>(new Set());
  readonly waiting = signal<readonly T[]>([]);
  readonly offline = signal(false);
  readonly waitsFor = computed(() => [
    ...new Set(
      this.waiting()
        .filter((w) => this.apart().has(this.options.keyOf(w)))
        .map((w) => w.by),
    ),
  ]);

  /** What waits, as it will be sent: for who has to look after it. */
  readonly held = computed<readonly Held[]>(() =>
    this.waiting().map((w) => ({
      ...{ key: this.options.keyOf(w), by: w.by, seal: w.seal, file: this.options.file?.(w) ?? null },
      after: (this.options.inOrder && this.waitsFor().find((by) => by !== w.by)) || null,
      ...this.options.sealable(w),
    })),
  );

  constructor(private readonly options: OutboxOptions<T, R>) {
    const online = (): void => this.flush();
    window.addEventListener("online", online);
    const all = inject(Waiting);
    all.add(this);
    // Whoever comes in may be the one that something waits for.
    effect(() => {
      this.door.me();
      untracked(() => {
        this.apart.set(new Set());
        this.flush();
      });
    });
    inject(DestroyRef).onDestroy(() => {
      window.removeEventListener("online", online);
      if (this.timer) clearTimeout(this.timer);
      all.drop(this);
    });
  }

  add(item: T): void {
    this.set([...this.waiting(), item], null);
    const sealing = this.seals.seal({ ...this.options.sealable(item), by: item.by });
    if (sealing) void this.sealed(this.options.keyOf(item), sealing);
    this.flush();
  }

  private async sealed(key: string, sealing: Promise<string | null>): Promise<void> {
    this.beingSealed.add(key);
    const seal = await sealing.catch(() => null);
    this.beingSealed.delete(key);
    const item = this.waiting().find((w) => this.options.keyOf(w) === key);
    if (seal !== null && item) {
      const now = { ...item, seal };
      this.set(
        this.waiting().map((w) => (w === item ? now : w)),
        null,
      );
      this.options.sealed?.(now);
    }
    this.flush();
  }

  /** Lets one go that nobody can send any more. */
  letGo(key: string): void {
    const gone = this.waiting().find((w) => this.options.keyOf(w) === key);
    if (!gone) return;
    this.set(
      this.waiting().filter((w) => w !== gone),
      gone,
    );
    this.flush();
  }

  /** Begins with what an earlier page left behind. */
  recall(left: readonly T[]): void {
    const here = new Set(this.waiting().map(this.options.keyOf));
    this.waiting.set([...left.filter((w) => !here.has(this.options.keyOf(w))), ...this.waiting()]);
  }

  flush(): void {
    const first = this.nextUp();
    if (first === undefined || this.sending || this.door.shut()) return;
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
        if (this.keeps(problem, first)) return;
        this.options.refused(problem, first);
        settle();
      },
    });
  }

  private nextUp(): T | undefined {
    const apart = this.apart();
    const passes = (w: T): boolean => !apart.has(this.options.keyOf(w));
    const first = this.options.inOrder ? this.waiting().at(0) : this.waiting().find(passes);
    const key = first && this.options.keyOf(first);
    return first && key !== undefined && passes(first) && !this.beingSealed.has(key) ? first : undefined;
  }

  /** Whether it stays, since it could not be sent now: without a server, or without its own person. */
  private keeps({ status, title }: Problem, item: T): boolean {
    const offline = status === 0 || status >= 500;
    const theirs =
      (status === 403 && title === "Another’s work") ||
      (status === 403 && title === "PIN again" && item.by !== this.door.me()?.person?.name);
    if (!offline && !theirs && status !== 401) return false;
    this.sending = false;
    if (offline) {
      this.offline.set(true);
      this.retryLater();
    }
    // At a door that is shut it waits for whoever comes in.
    if (theirs) {
      this.apart.update((all) => new Set([...all, this.options.keyOf(item)]));
      this.flush();
    }
    return true;
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
