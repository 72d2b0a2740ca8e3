import { computed, effect, inject, Injectable, signal } from "@angular/core";
import type { Axis, Circles, IndicatorRecord, Job, JobAct, LinkShare, RunSummary } from "@iron/contract";
import { isSplitTest, jobProgress } from "@iron/core";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { PhotoQueue } from "./photo-queue";
import { pendingEvents } from "./job-queue";
import { JobQueues, type JobBox } from "./job-queues";

/** A job at the machine: acts go out in order, wait while there is no connection, and go once. */
@Injectable()
export class JobStore {
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  private readonly photos = inject(PhotoQueue);
  private jobId = 0;
  readonly job = signal<Job | null>(null);
  /** As others have left it meanwhile, at another step; null: as it is shown. */
  readonly newer = signal<Job | null>(null);
  readonly axes = signal<readonly Axis[]>([]);
  readonly error = signal("");
  private readonly queues = inject(JobQueues);
  private readonly box = signal<JobBox | null>(null);
  readonly queue = computed(() => this.box()?.out.waiting() ?? []);
  readonly offline = computed(() => this.box()?.out.offline() ?? false);
  /** Who has to sign in before what they did goes on its way, and all after it. */
  readonly waitsFor = computed(() => this.box()?.out.waitsFor() ?? []);
  readonly photoRefused = computed(() => {
    const refused = this.photos.refused();
    return refused?.photo.of === "job" && refused.photo.id === this.job()?.id ? refused.message : "";
  });
  readonly photosWaiting = computed(() => {
    const here = this.job()?.id;
    return this.photos.waiting().filter((p) => p.of === "job" && p.id === here);
  });
  /** Acts the server would not take, with its words: shown until they are read. */
  readonly refused = computed(() => this.box()?.refused.all() ?? []);
  /** Finished whole-chain tests since the job was opened, by axis letter, the newest first. */
  readonly runs = signal<Readonly<Record<string, readonly RunSummary[]>>>({});
  /** Circles of the machine, for a retest by one; null until they are there. */
  readonly circles = signal<Circles | null>(null);
  readonly circlesFailed = signal("");
  /** What the shop measures with: a typed loss is as good as its indicator. */
  readonly indicators = signal<readonly IndicatorRecord[]>([]);
  /** What each link of an axis is known to lose, by axis id. */
  readonly shares = signal<Readonly<Partial<Record<number, readonly LinkShare[]>>>>({});
  readonly progress = computed(() => {
    const job = this.job();
    if (!job) return null;
    const waiting = pendingEvents(job.events, this.queue());
    return jobProgress(job.plan, [...job.events, ...waiting]);
  });

  constructor() {
    effect(() => {
      const now = this.photos.taken();
      if (now && "plan" in now && now.id === this.jobId) this.job.set(now);
    });
    effect(() => {
      const now = this.box()?.job();
      if (now && now.id === this.jobId) this.job.set(now);
    });
  }

  load(jobId: number): void {
    this.jobId = jobId;
    this.error.set("");
    const box = this.queues.of(jobId);
    this.box.set(box);
    const before = box.job();
    this.api.call("job", { params: { id: jobId } }).subscribe({
      next: (asked) => {
        // What was answered to an act meanwhile is newer.
        const answered = box.job();
        const job = answered && answered !== before ? answered : asked;
        this.job.set(job);
        box.out.offline.set(false);
        box.out.flush();
        this.loadAround(job);
        void this.photos.recall();
      },
      error: saidIn(this.error),
    });
  }

  /**
   * Looks what others have done with the job. The step under the thumb is not taken away: where another signed it
   * meanwhile, that is said first.
   */
  look(): void {
    const before = this.job();
    if (!before || this.queue().length) return;
    this.api.call("job", { params: { id: this.jobId } }).subscribe({
      next: (job) => {
        if (this.queue().length || job.id !== this.jobId) return;
        const stepOf = (one: Job): string | undefined => jobProgress(one.plan, one.events).next?.id;
        if (stepOf(job) === stepOf(before)) this.job.set(job);
        else this.newer.set(job);
      },
      error: () => undefined,
    });
  }

  /** Shows the job as others have left it. */
  takeNewer(): void {
    const job = this.newer();
    this.newer.set(null);
    if (job) this.job.set(job);
  }

  private loadAround(job: Job): void {
    this.api.call("indicators").subscribe({
      next: (all) => this.indicators.set(all.filter((i) => !i.retiredAt)),
      // Without them a typed loss has an unknown uncertainty, and says so.
      error: () => this.indicators.set([]),
    });
    this.api.call("machine", { params: { id: job.machineId } }).subscribe({
      next: ({ axes }) => this.axes.set(axes.filter((a) => job.axes.some((j) => j.axisId === a.id))),
      error: () => undefined,
    });
    for (const { axisId } of job.axes)
      this.api.call("axisLedger", { params: { id: axisId } }).subscribe({
        next: ({ links }) => this.shares.update((all) => ({ ...all, [axisId]: links })),
        error: () => undefined,
      });
    this.loadRuns();
  }

  /** Tests taken since, for the retest: nice to have, never in the way. */
  loadRuns(): void {
    const job = this.job();
    if (!job) return;
    for (const { axisId, letter } of job.axes)
      this.api.call("history", { params: { id: axisId } }).subscribe({
        next: ({ runs }) => {
          const since = runs.filter(
            (r) => r.state === "finished" && r.reversalValueMm !== null && r.at > job.openedAt && !isSplitTest(r.kind),
          );
          this.runs.update((all) => ({ ...all, [letter]: [...since].reverse() }));
        },
        error: () => undefined,
      });
  }

  /** Circles taken since, for a retest by one. */
  loadCircles(): void {
    const job = this.job();
    if (!job) return;
    this.circlesFailed.set("");
    this.api.call("circles", { params: { id: job.machineId } }).subscribe({
      next: (circles) => this.circles.set(circles),
      error: saidIn(this.circlesFailed),
    });
  }

  /** Takes an act: shown at once, kept in the browser, sent as soon as it can be. */
  act(act: JobAct): void {
    this.box()?.out.add({ act, at: new Date().toISOString(), by: this.preferences.who() });
  }

  read(key: string): void {
    this.box()?.refused.read(key);
  }

  /** Takes a photo: kept in the browser, sent as soon as it can be. */
  photo(step: string, file: Blob, caption: string): void {
    this.photos.take({ of: "job", id: this.jobId, step, caption, file });
  }
}
