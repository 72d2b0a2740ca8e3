import { computed, inject, Injectable, signal } from "@angular/core";
import {
  NOTHING_TOLD,
  type Answers,
  type Diagnosis,
  type Case,
  type CaseSummary,
  type ResultData,
  type Told,
} from "@iron/contract";
import type { CaseContext, FindingId, TestId } from "@iron/core";
import { catchError, debounceTime, EMPTY, Subject, switchMap, tap, type Observable } from "rxjs";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import { Api } from "../data/api";
import { Changes } from "../data/changes";
import { LastWords } from "../data/last-words";
import { Notices } from "../data/notices";
import { Preferences } from "../data/preferences";
import { problemFrom, saidIn } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { answered, editOf, withAxes, withEvidence, withTold, withUnsent, type AnswerChange } from "./case-edits";

const SAVE_AFTER_MS = 350;

/** The open case of an axis: its answers, kept as they are given, and what they mean. */
@Injectable()
export class CaseStore {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  private readonly context = inject(AxisContext);
  private readonly lastWords = inject(LastWords);
  private readonly edits = new Subject<void>();
  /** The case to be weighed; only what the last one asked for comes to stands. */
  private readonly toWeigh = new Subject<Case | null>();
  private readonly axis = signal(0);
  private dirty = false;

  readonly summaries = signal<readonly CaseSummary[] | null>(null);
  readonly current = signal<Case | null>(null);
  readonly diagnosis = signal<Diagnosis | null>(null);
  /** Causes that may be acted on: none while what was measured does not fit together. */
  readonly leading = computed(() => {
    const diagnosis = this.diagnosis();
    return diagnosis?.fits ? diagnosis.leading : [];
  });
  readonly error = signal("");
  readonly saving = signal(false);
  /** Somebody else's version, when ours came too late. */
  readonly theirs = signal<Case | null>(null);
  readonly open = computed(() => {
    const file = this.current();
    return file?.state === "open" ? file : null;
  });
  /** What was told of this axis; in a case of several each has its own. */
  readonly told = computed(() => this.toldOf(this.axis()));
  readonly next = computed(() => this.diagnosis()?.tests.find((t) => t.next) ?? null);

  constructor() {
    this.edits.pipe(debounceTime(SAVE_AFTER_MS), takeUntilDestroyed()).subscribe(() => this.save());
    this.toWeigh
      .pipe(
        switchMap((file) => (file ? this.weigh(file) : EMPTY)),
        takeUntilDestroyed(),
      )
      .subscribe((diagnosis) => {
        this.diagnosis.set(diagnosis);
        this.error.set("");
      });
    // What was measured, entered or set on the axis meanwhile is evidence like any other.
    this.context.changed.pipe(takeUntilDestroyed()).subscribe(() => this.weighAnew());
    inject(Changes)
      .of("cases", "results", "photos")
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.look());
    // Answers given in the last moment go out with the page.
    this.lastWords.before(() => this.sendLast());
  }

  private sendLast(): void {
    const file = this.open();
    if (!file || !this.dirty || this.theirs()) return;
    this.dirty = false;
    this.lastWords.put(this.api.address("updateCase", { params: { id: file.id } }), editOf(file));
  }

  /** Takes up the axis' open case, or a closed one when it is asked for. */
  load(axisId: number, caseId?: number): void {
    if (this.axis() !== axisId) {
      this.save();
      this.dirty = false;
      this.summaries.set(null);
      this.current.set(null);
      this.diagnosis.set(null);
      this.toWeigh.next(null);
    }
    this.axis.set(axisId);
    this.error.set("");
    this.api.call("axisCases", { params: { id: axisId } }).subscribe({
      next: (list) => {
        this.summaries.set(list);
        const id = caseId ?? list.find((c) => c.state === "open")?.id;
        if (id === undefined) this.current.set(null);
        else this.take(this.api.call("case", { params: { id } }));
      },
      error: saidIn(this.error),
    });
  }

  /** Looks what others have done with the case; not while something of one’s own is on its way. */
  private look(): void {
    const [before, params] = [this.current(), { id: this.axis() }];
    if (this.summaries() === null || !this.isSettled()) return;
    const asked = this.api.call("axisCases", { params }).pipe(
      tap((list) => this.summaries.set(list)),
      switchMap((list) => {
        const id = before?.id ?? list.find((c) => c.state === "open")?.id;
        return id === undefined ? EMPTY : this.api.call("case", { params: { id } });
      }),
    );
    const come = (file: Case): void => {
      if (this.current() !== before || !this.isSettled() || JSON.stringify(file) === JSON.stringify(before)) return;
      this.current.set(file);
      this.diagnose();
    };
    asked.subscribe({ next: come, error: () => undefined });
  }

  private readonly isSettled = (): boolean => !this.dirty && !this.saving() && !this.theirs();

  private loadSummaries(axisId: number): void {
    this.api.call("axisCases", { params: { id: axisId } }).subscribe({
      next: (list) => this.summaries.set(list),
      error: saidIn(this.error),
    });
  }

  openCase(machineId: number, axisIds: readonly number[], answers: Answers = {}): void {
    this.take(
      this.api.call("openCase", {
        params: { id: machineId },
        body: { axisIds: [...axisIds], answers },
      }),
      () => {
        this.loadSummaries(this.axis());
        const file = this.current();
        if (file) this.notices.say(`Case ${file.id} opened.`, () => this.drop(file.id));
      },
    );
  }

  /** Takes the opening of a case back, while it holds nothing but answers. */
  private drop(caseId: number): void {
    this.dirty = false;
    this.api.call("dropCase", { params: { id: caseId } }).subscribe({
      next: () => {
        this.current.set(null);
        this.diagnosis.set(null);
        this.toWeigh.next(null);
        this.loadSummaries(this.axis());
      },
      error: this.notices.error,
    });
  }

  /** What was told of an axis of the case. */
  toldOf(axisId: number): Told {
    return this.current()?.told[axisId] ?? NOTHING_TOLD;
  }

  /** An answer; the first one begins the case. */
  answer(finding: FindingId, present: boolean | null, axisId = this.axis()): void {
    this.answerAll({ [finding]: present }, axisId);
  }

  /** Several at once; null takes an answer away. */
  answerAll(answers: AnswerChange, axisId = this.axis()): void {
    if (!this.open()) {
      const machine = this.context.machine();
      if (machine && this.summaries()) this.openCase(machine.id, [axisId], answered({}, answers));
      return;
    }
    this.edit((file) => withTold(file, axisId, (told) => ({ ...told, answers: answered(told.answers, answers) })));
    this.save();
  }

  /** What stands behind a symptom: a note, a measurement or a result. */
  setEvidence(finding: FindingId, change: Partial<{ note: string; ref: string | null }>): void {
    this.edit((file) => withTold(file, this.axis(), (told) => withEvidence(told, finding, change)));
  }

  /** Where along the travel, and whether that is all. */
  setTold(change: Partial<Pick<Told, "allTold" | "place">>): void {
    this.edit((file) => withTold(file, this.axis(), (told) => ({ ...told, ...change })));
    this.save();
  }

  /** It may be another axis of the machine. */
  setAxes(axisIds: readonly number[]): void {
    this.edit((file) => withAxes(file, axisIds));
    this.save();
  }

  setContext(change: Partial<CaseContext>): void {
    this.edit((file) => ({ ...file, context: { ...file.context, ...change } }));
    this.save();
  }

  setNotes(notes: string): void {
    this.edit((file) => ({ ...file, notes }));
  }

  addResult(
    test: TestId,
    answers: Answers,
    { note, data, then }: { readonly note: string; readonly data: ResultData | null; readonly then: () => void },
  ): void {
    const file = this.open();
    if (!file) return;
    const body = { axisId: this.axis(), test, answers, note, data };
    this.take(this.api.call("addResult", { params: { id: file.id }, body }), () => {
      this.diagnosis.set(null);
      then();
    });
  }

  withdraw(resultId: number): void {
    this.take(this.api.call("withdrawResult", { params: { id: resultId } }), () =>
      this.notices.say("Result taken back.", () => this.restore(resultId)),
    );
  }

  restore(resultId: number): void {
    this.take(this.api.call("restoreResult", { params: { id: resultId } }));
  }

  /** Closes the case; what then follows comes only when it is closed. */
  close(found: string[], words: string, then: () => void = () => undefined): void {
    const file = this.open();
    if (!file) return;
    const body = { version: file.version, found, words };
    this.take(this.api.call("closeCase", { params: { id: file.id }, body }), () => {
      this.notices.say("Case closed.", () => this.reopen(file.id));
      then();
    });
  }

  reopen(caseId: number): void {
    this.take(this.api.call("reopenCase", { params: { id: caseId } }));
  }

  addPhoto(photo: Blob, caption: string, finding: FindingId | null): void {
    const file = this.open();
    if (file) this.take(this.api.photo(file.id, photo, { caption, finding }), () => this.notices.say("Photo kept."));
  }

  withdrawPhoto(photoId: number): void {
    this.take(this.api.call("withdrawPhoto", { params: { id: photoId } }));
  }

  /** Two people wrote: take theirs, or put mine over it. */
  settle(mine: boolean): void {
    const theirs = this.theirs();
    const file = this.current();
    if (!theirs || !file) return;
    this.theirs.set(null);
    if (mine) {
      this.current.set({ ...file, version: theirs.version });
      this.dirty = true;
      this.save();
    } else {
      this.dirty = false;
      this.current.set(theirs);
      this.diagnose();
    }
  }

  diagnose(): void {
    this.toWeigh.next(this.current());
  }

  /** The verdict of before is not shown for one that knows what has come since. */
  private weighAnew(): void {
    this.diagnosis.set(null);
    this.diagnose();
  }

  private weigh(file: Case): Observable<Diagnosis> {
    const query = { axis: this.axis(), system: this.preferences.system() };
    return this.api.call("diagnosis", { params: { id: file.id }, query }).pipe(
      catchError((error: unknown) => {
        this.error.set(problemFrom(error).detail);
        return EMPTY;
      }),
    );
  }

  private edit(change: (file: Case) => Case): void {
    const file = this.open();
    if (!file) return;
    this.current.set(change(file));
    this.dirty = true;
    this.edits.next();
  }

  private save(): void {
    const file = this.open();
    if (!file || !this.dirty || this.saving() || this.theirs()) return;
    this.dirty = false;
    this.saving.set(true);
    this.api.call("updateCase", { params: { id: file.id }, body: editOf(file) }).subscribe({
      next: (kept) => {
        this.saving.set(false);
        this.error.set("");
        const now = this.current();
        // What was changed while this was on its way stays, on top of the version just kept.
        if (this.dirty && now) {
          this.current.set({ ...now, version: kept.version });
          this.edits.next();
        } else this.current.set(kept);
        this.diagnose();
      },
      error: (error: unknown) => {
        this.saving.set(false);
        this.dirty = true;
        const problem = problemFrom(error);
        if (problem.status === 409 && problem.current) this.theirs.set(problem.current as Case);
        else {
          this.error.set(problem.detail);
          if (problem.status === 0) setTimeout(() => this.edits.next(), 2000);
        }
      },
    });
  }

  private take(request: Observable<Case>, then?: () => void): void {
    request.subscribe({
      next: (file) => {
        // Answers not yet sent stay: what comes from the server brings its version and results only.
        this.current.set(withUnsent(file, this.current(), this.dirty));
        if (this.dirty) this.edits.next();
        this.error.set("");
        this.diagnose();
        this.context.reloadLedger();
        then?.();
      },
      error: this.notices.error,
    });
  }
}
