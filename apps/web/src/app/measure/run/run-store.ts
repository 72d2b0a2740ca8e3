import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import {
  judgeApproach,
  nextStep,
  stepsOf,
  stillForMs,
  wantedApproach,
  watchStill,
  type CommandedAs,
  type StillWatch,
} from "@iron/core";
import type { DeviceSnapshot, ReadingCreate, Run } from "@iron/contract";
import { EMPTY, Observable, Subscription, tap } from "rxjs";
import { Api } from "../../data/api";
import { Changes } from "../../data/changes";
import { DeviceStream } from "../../data/device-stream";
import { Driving } from "../../data/driving";
import { Notices } from "../../data/notices";
import { Preferences } from "../../data/preferences";
import { problemFrom, saidIn } from "../../data/problems";
import { AxisContext } from "../../machine/axis/axis-context";

/** How long the display must be still before a reading is taken by itself, ms. */
export const HOLD_MS = 1000;
/** Display steps that count as a movement of the needle. */
const NOTICED_STEPS = 2;

/** One run, its device and what can be done with them; the server keeps everything. */
@Injectable()
export class RunStore {
  private readonly api = inject(Api);
  private readonly stream = inject(DeviceStream);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  private readonly context = inject(AxisContext);
  private watching: Subscription | null = null;
  private stillWatch: StillWatch | null = null;
  private wasWaiting = false;
  private programAsked = false;
  readonly run = signal<Run | null>(null);
  readonly error = signal("");
  readonly busy = signal(false);
  readonly snapshot = signal<DeviceSnapshot | null>(null);
  readonly link = signal<"connecting" | "live" | "waiting" | "none">("connecting");
  readonly stillMs = signal(0);
  /** Why the last attempt did not give a reading. */
  readonly refusal = signal("");

  readonly step = computed(() => {
    const run = this.run();
    return run?.state === "running" ? (nextStep(stepsOf(run.plan), run.readings) ?? null) : null;
  });
  readonly judgement = computed(() => {
    const run = this.run();
    const step = this.step();
    const snapshot = this.snapshot();
    if (!run || !step || !snapshot || step.action === "count") return null;
    return judgeApproach(snapshot.track, wantedApproach(run.plan, step));
  });
  readonly counted = computed(() => {
    const step = this.step();
    const snapshot = this.snapshot();
    const run = this.run();
    if (step?.action !== "count" || !snapshot || !run) return null;
    const { positionMm, strokeStartMm, lastDirection } = snapshot.track;
    if (lastDirection !== step.direction) return 0;
    return Math.round(Math.abs(positionMm - strokeStartMm) / run.plan.tickMm);
  });
  /** By a jog, an approach or a program. */
  readonly moves = computed(() => {
    const snapshot = this.snapshot();
    return snapshot !== null && (snapshot.moving || !!snapshot.queued || snapshot.programRunId !== null);
  });
  readonly programRuns = computed(() => {
    const program = this.snapshot()?.programRunId;
    return program !== null && program !== undefined && program === this.run()?.id;
  });

  private readonly driven = computed(() => {
    const [run, moves] = [this.run(), this.moves()];
    if (!run || !moves) return null;
    const what = `The simulated ${this.context.axis()?.config.letter ?? ""} axis`;
    return { what, stop: () => this.stopped(run.axisId) };
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.watching?.unsubscribe());
    inject(Driving).follow(this.driven);
    inject(Changes)
      .of("runs", "readings")
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.look());
    effect(() => {
      if (this.readyToTake() && this.preferences.autoTake() === "on" && !this.busy())
        untracked(() => this.takeFromDevice());
    });
  }

  load(runId: number): void {
    this.api.call("run", { params: { id: runId } }).subscribe({
      next: (run) => {
        const before = this.run();
        this.run.set(run);
        this.error.set("");
        // A program has ended it: the chain and the history have something new to show.
        if (before?.state === "running" && run.state !== "running") this.context.reload();
        if (!this.watching) this.watch(run.axisId);
      },
      error: saidIn(this.error),
    });
  }

  /** Looks what others have read; not while something of one’s own is on its way. */
  private look(): void {
    const run = this.run();
    if (!run || this.busy()) return;
    this.api.call("run", { params: { id: run.id } }).subscribe({
      next: (now) => {
        if (this.busy() || this.run() !== run || JSON.stringify(now) === JSON.stringify(run)) return;
        this.run.set(now);
      },
      error: () => undefined,
    });
  }

  takeFromDevice(): void {
    const step = this.step();
    if (step)
      this.change(
        this.postReading({
          source: "device",
          step: step.index,
          system: this.preferences.system(),
        }),
      );
  }

  take(reading: ReadingCreate, then: () => void): void {
    this.change(this.postReading(reading), then);
  }

  discard(readingId: number, reason: string): void {
    this.change(this.api.call("discardReading", { params: { id: readingId }, body: { reason } }), () => {
      this.notices.say("Reading set aside.", () => this.restore(readingId));
    });
  }

  restore(readingId: number): void {
    this.change(this.api.call("restoreReading", { params: { id: readingId } }));
  }

  turnSense(sense: 1 | -1): void {
    this.onRun((id) => this.api.call("turnSense", { params: { id }, body: { sense } }));
  }

  /** A program is taken along: its places are as it writes them. */
  noteProgram(commanded: CommandedAs): void {
    this.onRun((id) => this.api.call("noteProgram", { params: { id }, body: commanded }));
  }

  finish(): void {
    this.onRun((id) => this.api.call("finishRun", { params: { id } }));
  }

  abandon(reason: string, then: () => void): void {
    this.onRun((id) => this.api.call("abandonRun", { params: { id }, body: { reason } }), then);
  }

  approach(feedMmMin: number): void {
    this.command((axisId, runId) =>
      this.api.call("approach", {
        params: { id: axisId },
        body: {
          runId,
          feedMmMin,
        },
      }),
    );
  }

  jog(byMm: number, feedMmMin: number): void {
    this.command((axisId) => this.api.call("jog", { params: { id: axisId }, body: { byMm, feedMmMin } }));
  }

  stop(): void {
    this.command((axisId) => this.stopped(axisId));
  }

  /** It stands, though no stream says so any more: that ends with the session. */
  private stopped(axisId: number): Observable<unknown> {
    return this.api
      .call("stopDevice", { params: { id: axisId } })
      .pipe(tap(() => this.snapshot.update((s) => s && { ...s, moving: false, queued: 0, programRunId: null })));
  }

  program(feedMmMin: number, dwellS: number): void {
    this.command(
      (axisId, runId) =>
        this.api.call("runProgram", {
          params: { id: axisId },
          body: {
            runId,
            feedMmMin,
            dwellS,
          },
        }),
      () => {
        this.programAsked = true;
      },
    );
  }

  private readyToTake(): boolean {
    const snapshot = this.snapshot();
    const step = this.step();
    if (!snapshot || !step || snapshot.moving || snapshot.programRunId !== null || !snapshot.fresh) return false;
    if (this.stillMs() < HOLD_MS || this.link() !== "live") return false;
    if (step.action === "count") {
      return (
        (this.counted() ?? 0) > 0 && Math.abs(snapshot.displayMm ?? 0) >= (NOTICED_STEPS - 0.1) * snapshot.resolutionMm
      );
    }
    const judged = this.judgement()?.kind;
    return judged === "good" || judged === "overshot";
  }

  private watch(axisId: number): void {
    this.watching = this.stream.of(axisId).subscribe((news) => {
      if (news.kind === "snapshot") this.see(news.snapshot);
      else {
        this.link.set(news.kind);
        this.wasWaiting = true;
        this.stillWatch = null;
        this.stillMs.set(0);
      }
    });
  }

  private see(snapshot: DeviceSnapshot): void {
    const before = this.snapshot();
    const display = snapshot.moving ? null : snapshot.displayMm;
    this.stillWatch = watchStill(this.stillWatch, {
      value: display,
      atMs: snapshot.atMs,
      resolutionMm: snapshot.resolutionMm,
    });
    this.stillMs.set(stillForMs(this.stillWatch, snapshot.atMs));
    this.snapshot.set(snapshot);
    this.link.set("live");
    const run = this.run();
    // A program reads in the server, and after a lost connection others may have gone on.
    const programMoved =
      run && (snapshot.programRunId === run.id || before?.programRunId === run.id) && snapshot.sequence % 6 === 0;
    // A short program may begin and end between two samples: its end is looked for by itself.
    const ended = run && (before?.programRunId === run.id || this.programAsked) && snapshot.programRunId === null;
    if (ended) this.programAsked = false;
    if (run && (programMoved || ended || this.wasWaiting)) this.load(run.id);
    this.wasWaiting = false;
  }

  private postReading(reading: ReadingCreate): Observable<Run> {
    const id = this.run()?.id;
    return id === undefined ? EMPTY : this.api.call("takeReading", { params: { id }, body: reading });
  }

  private onRun(make: (id: number) => Observable<Run>, then?: () => void): void {
    const run = this.run();
    if (run) this.change(make(run.id), then);
  }

  private change(request: Observable<Run>, then?: () => void): void {
    if (this.busy()) return;
    this.busy.set(true);
    request.subscribe({
      next: (run) => {
        const ended = this.run()?.state === "running" && run.state !== "running";
        this.run.set(run);
        this.refusal.set("");
        this.busy.set(false);
        this.stillWatch = null;
        this.stillMs.set(0);
        if (ended || run.state !== "running") this.context.reload();
        then?.();
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        this.refusal.set(problem.detail);
        this.busy.set(false);
        this.stillWatch = null;
        this.stillMs.set(0);
        if (problem.status === 409 && problem.current) this.run.set(problem.current as Run);
      },
    });
  }

  private command(make: (axisId: number, runId: number) => Observable<unknown>, then?: () => void): void {
    const run = this.run();
    if (!run) return;
    make(run.axisId, run.id).subscribe({
      next: () => {
        this.refusal.set("");
        then?.();
      },
      error: saidIn(this.refusal),
    });
  }
}
