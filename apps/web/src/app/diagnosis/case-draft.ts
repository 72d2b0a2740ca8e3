import { computed, signal } from "@angular/core";
import type { Case } from "@iron/contract";
import { debounceTime, Subject, type Observable } from "rxjs";
import { problemFrom } from "../data/problems";
import { withUnsent } from "./case-edits";

const SAVE_AFTER_MS = 350;
const AGAIN_AFTER_MS = 2000;

/** How a draft reaches the server, and who is told. */
export interface CaseKeeper {
  send(file: Case): Observable<Case>;
  /** What was sent is kept. */
  kept(): void;
  /** Left by who edited it, it could not be kept. */
  failed(file: Case, failure: unknown): void;
}

/**
 * The case of one visit to an axis, as it is edited. Each visit has its own: an answer that comes when one has gone on
 * to another axis comes to the case that it was asked of, and to no other.
 */
export class CaseDraft {
  readonly current = signal<Case | null>(null);
  readonly error = signal("");
  readonly saving = signal(false);
  /** Somebody else's version, when ours came too late. */
  readonly theirs = signal<Case | null>(null);
  readonly open = computed(() => {
    const file = this.current();
    return file?.state === "open" ? file : null;
  });
  /** While it is being begun: what was answered meanwhile, and goes into it after. */
  private meanwhile: ((file: Case) => Case)[] | null = null;
  private readonly edits = new Subject<void>();
  private dirty = false;
  private isLeft = false;

  constructor(private readonly keeper: CaseKeeper) {
    this.edits.pipe(debounceTime(SAVE_AFTER_MS)).subscribe(() => this.save());
  }

  /** Whether it is to be begun now: once. */
  begin(): boolean {
    if (this.meanwhile) return false;
    this.meanwhile = [];
    return true;
  }

  /** Whether something has to wait until it is begun. */
  waits(change: (file: Case) => Case): boolean {
    this.meanwhile?.push(change);
    return this.meanwhile !== null;
  }

  /** It is begun, and what waited for that goes into it; or it could not be. */
  opened(): void {
    const all = this.meanwhile ?? [];
    this.meanwhile = null;
    for (const change of all) this.edit(change);
    if (all.length) this.save();
  }

  /** Nothing of one’s own is on its way. */
  isSettled(): boolean {
    return !this.dirty && !this.saving() && !this.theirs();
  }

  edit(change: (file: Case) => Case): void {
    const file = this.open();
    if (!file) return;
    this.current.set(change(file));
    this.dirty = true;
    this.edits.next();
  }

  /** From the server: answers not yet sent stay, it brings its version and results only. */
  come(file: Case): void {
    this.current.set(withUnsent(file, this.current(), this.dirty));
    if (this.dirty) this.edits.next();
    this.error.set("");
  }

  /** There is no such case any more, or another is taken up. */
  drop(): void {
    this.dirty = false;
    this.current.set(null);
  }

  save(): void {
    const file = this.open();
    if (!file || !this.dirty || this.saving() || this.theirs()) return;
    this.dirty = false;
    this.saving.set(true);
    this.keeper.send(file).subscribe({
      next: (kept) => {
        this.saving.set(false);
        this.error.set("");
        const now = this.current();
        // What was changed while this was on its way stays, on top of the version just kept.
        if (this.dirty && now) {
          this.current.set({ ...now, version: kept.version });
          if (this.isLeft) this.save();
          else this.edits.next();
        } else this.current.set(kept);
        this.keeper.kept();
      },
      error: (failure: unknown) => {
        this.saving.set(false);
        const now = this.current();
        if (this.isLeft && now) return this.keeper.failed(now, failure);
        this.dirty = true;
        const problem = problemFrom(failure);
        if (problem.status === 409 && problem.current) this.theirs.set(problem.current as Case);
        else {
          this.error.set(problem.detail);
          if (problem.status === 0) setTimeout(() => this.edits.next(), AGAIN_AFTER_MS);
        }
      },
    });
  }

  /** Two people wrote: take theirs, or put mine over it. */
  settle(mine: boolean): void {
    const [theirs, file] = [this.theirs(), this.current()];
    if (!theirs || !file) return;
    this.theirs.set(null);
    this.dirty = mine;
    this.current.set(mine ? { ...file, version: theirs.version } : theirs);
    this.save();
  }

  /** What was not sent, and is sent otherwise. */
  takeUnsent(): Case | null {
    const file = this.open();
    if (!file || !this.dirty || this.theirs()) return null;
    this.dirty = false;
    return file;
  }

  /** One goes elsewhere: what was not sent goes out now. */
  leave(): void {
    this.isLeft = true;
    const [file, theirs] = [this.current(), this.theirs()];
    this.edits.complete();
    this.save();
    if (file && theirs && this.dirty)
      this.keeper.failed(file, new Error("Somebody else changed this case too, and nobody said which of both holds."));
  }
}
