import { computed, DestroyRef, inject, Injectable, signal } from "@angular/core";
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
import {
  catchError,
  EMPTY,
  filter,
  finalize,
  map,
  of,
  Subject,
  switchMap,
  tap,
  type Observable,
  type Subscription,
} from "rxjs";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import { Api } from "../data/api";
import { Changes } from "../data/changes";
import { LastWords } from "../data/last-words";
import { LeftBehind } from "../data/left-behind";
import { Notices } from "../data/notices";
import { Preferences } from "../data/preferences";
import { problemFrom, saidIn } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseDraft } from "./case-draft";
import { answered, editOf, withAxes, withEvidence, withTold, type AnswerChange } from "./case-edits";

/** The open case of an axis: its answers, kept as they are given, and what they mean. */
@Injectable()
export class CaseStore {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  private readonly context = inject(AxisContext);
  private readonly lastWords = inject(LastWords);
  private readonly leftBehind = inject(LeftBehind);
  private readonly draft = signal(this.begin());
  private loading: Subscription | null = null;
  /** The case to be weighed; only what the last one asked for comes to stands. */
  private readonly toWeigh = new Subject<Case | null>();
  private readonly axis = signal(0);

  readonly summaries = signal<readonly CaseSummary[] | null>(null);
  readonly current = computed(() => this.draft().current());
  readonly diagnosis = signal<Diagnosis | null>(null);
  /** Causes that may be acted on: none while what was measured does not fit together. */
  readonly leading = computed(() => {
    const diagnosis = this.diagnosis();
    return diagnosis?.fits ? diagnosis.leading : [];
  });
  private readonly trouble = signal("");
  readonly error = computed(() => this.draft().error() || this.trouble());
  readonly saving = computed(() => this.draft().saving());
  /** Somebody else's version, when ours came too late. */
  readonly theirs = computed(() => this.draft().theirs());
  readonly open = computed(() => this.draft().open());
  /** What was told of this axis; in a case of several each has its own. */
  readonly told = computed(() => this.toldOf(this.axis()));
  readonly next = computed(() => this.diagnosis()?.tests.find((t) => t.next) ?? null);

  constructor() {
    this.toWeigh
      .pipe(
        switchMap((file) => (file ? this.weigh(file) : EMPTY)),
        takeUntilDestroyed(),
      )
      .subscribe((diagnosis) => {
        this.diagnosis.set(diagnosis);
        this.trouble.set("");
      });
    // What was measured, entered or set on the axis meanwhile is evidence like any other.
    this.context.changed.pipe(takeUntilDestroyed()).subscribe(() => this.weighAnew());
    inject(Changes)
      .of("cases", "results", "photos")
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.look());
    // Answers given in the last moment go out with the page, or with what asks for it.
    this.lastWords.before(() => this.sendLast());
    inject(DestroyRef).onDestroy(() => this.draft().leave());
  }

  private sendLast(): void {
    const file = this.draft().takeUnsent();
    if (file) this.lastWords.put(this.api.address("updateCase", { params: { id: file.id } }), editOf(file));
  }

  private begin(): CaseDraft {
    const put = (file: Case) => ({ params: { id: file.id }, body: editOf(file) });
    const { path } = this.leftBehind.here();
    const draft: CaseDraft = new CaseDraft({
      send: (file) => this.api.call("updateCase", { ...put(file), lookedAfter: true }),
      kept: () => {
        if (draft === this.draft()) this.diagnose();
      },
      failed: (file, failure) => {
        const { params, body } = put(file);
        const sent = { method: "PUT", url: this.api.address("updateCase", { params }), body };
        this.leftBehind.add({ ...sent, by: this.preferences.who(), page: `Case ${file.id}`, path }, failure);
      },
    });
    return draft;
  }

  /** Takes up the axis' open case, or a closed one when it is asked for. */
  load(axisId: number, caseId?: number): void {
    this.loading?.unsubscribe();
    if (this.axis() !== axisId) {
      this.draft().leave();
      this.draft.set(this.begin());
      this.summaries.set(null);
      this.diagnosis.set(null);
      this.toWeigh.next(null);
    }
    this.axis.set(axisId);
    this.trouble.set("");
    const idOf = (list: readonly CaseSummary[]) => caseId ?? list.find((c) => c.state === "open")?.id;
    this.loading = this.api
      .call("axisCases", { params: { id: axisId } })
      .pipe(
        tap((list) => this.summaries.set(list)),
        map(idOf),
        switchMap((id) => (id === undefined ? of(null) : this.api.call("case", { params: { id } }))),
      )
      .subscribe({
        next: (file) => {
          if (!file) return this.draft().drop();
          this.draft().come(file);
          this.came();
        },
        error: saidIn(this.trouble),
      });
  }

  /** Looks what others have done with the case; not while something of one’s own is on its way. */
  private look(): void {
    const [draft, before, params] = [this.draft(), this.current(), { id: this.axis() }];
    if (this.summaries() === null || !draft.isSettled()) return;
    const asked = this.api.call("axisCases", { params }).pipe(
      filter(() => draft === this.draft()),
      tap((list) => this.summaries.set(list)),
      switchMap((list) => {
        const id = before?.id ?? list.find((c) => c.state === "open")?.id;
        return id === undefined ? EMPTY : this.api.call("case", { params: { id } });
      }),
    );
    const come = (file: Case): void => {
      if (draft !== this.draft() || this.current() !== before || !draft.isSettled()) return;
      if (JSON.stringify(file) === JSON.stringify(before)) return;
      draft.come(file);
      this.diagnose();
    };
    asked.subscribe({ next: come, error: () => undefined });
  }

  private loadSummaries(): void {
    const draft = this.draft();
    this.api.call("axisCases", { params: { id: this.axis() } }).subscribe({
      next: (list) => {
        if (draft === this.draft()) this.summaries.set(list);
      },
      error: saidIn(this.trouble),
    });
  }

  /** Begins a case, once; what is answered until it is there goes into it. */
  openCase(machineId: number, axisIds: readonly number[], answers: Answers = {}): void {
    const draft = this.draft();
    if (!draft.begin()) return;
    const asked = this.api.call("openCase", { params: { id: machineId }, body: { axisIds: [...axisIds], answers } });
    this.take(asked.pipe(finalize(() => draft.opened())), () => {
      this.loadSummaries();
      const file = this.current();
      if (!file) return;
      this.notices.say(`Case ${file.id} opened.`, () => this.dropCase(file.id));
    });
  }

  /** Takes the opening of a case back, while it holds nothing but answers. */
  private dropCase(caseId: number): void {
    const draft = this.draft();
    this.api.call("dropCase", { params: { id: caseId } }).subscribe({
      next: () => {
        draft.drop();
        if (draft !== this.draft()) return;
        this.diagnosis.set(null);
        this.toWeigh.next(null);
        this.loadSummaries();
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
    const change = (file: Case): Case =>
      withTold(file, axisId, (told) => ({ ...told, answers: answered(told.answers, answers) }));
    if (this.draft().waits(change)) return;
    if (!this.open()) {
      const machine = this.context.machine();
      if (machine && this.summaries()) this.openCase(machine.id, [axisId], answered({}, answers));
      return;
    }
    this.edit(change);
    this.draft().save();
  }

  /** What stands behind a symptom: a note, a measurement or a result. */
  setEvidence(finding: FindingId, change: Partial<{ note: string; ref: string | null }>): void {
    this.edit((file) => withTold(file, this.axis(), (told) => withEvidence(told, finding, change)));
  }

  /** Where along the travel, and whether that is all. */
  setTold(change: Partial<Pick<Told, "allTold" | "place">>): void {
    this.edit((file) => withTold(file, this.axis(), (told) => ({ ...told, ...change })));
    this.draft().save();
  }

  /** It may be another axis of the machine. */
  setAxes(axisIds: readonly number[]): void {
    this.edit((file) => withAxes(file, axisIds));
    this.draft().save();
  }

  setContext(change: Partial<CaseContext>): void {
    this.edit((file) => ({ ...file, context: { ...file.context, ...change } }));
    this.draft().save();
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
    this.draft().settle(mine);
    if (!mine) this.diagnose();
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
        this.trouble.set(problemFrom(error).detail);
        return EMPTY;
      }),
    );
  }

  private edit(change: (file: Case) => Case): void {
    this.draft().edit(change);
  }

  private came(): void {
    this.trouble.set("");
    this.diagnose();
    this.context.reloadLedger();
  }

  /** Comes to the visit that asked for it; what follows from it follows only while that one lasts. */
  private take(request: Observable<Case>, then?: () => void): void {
    const draft = this.draft();
    request.subscribe({
      next: (file) => {
        draft.come(file);
        if (draft !== this.draft()) return;
        this.came();
        then?.();
      },
      error: this.notices.error,
    });
  }
}
