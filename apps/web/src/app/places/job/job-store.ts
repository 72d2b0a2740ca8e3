import { computed, DestroyRef, inject, Injectable, signal } from "@angular/core"; // prettier-ignore
import type { Axis, Job, JobAct, LinkShare, RunSummary } from "@iron/contract";
import { isSplitTest, jobProgress } from "@iron/core";
import { Api } from "../../data/api";
import { Preferences } from "../../data/preferences";
import { problemFrom } from "../../data/problems";
import { pendingEvents, readQueue, writeQueue, type QueuedAct } from "./job-queue"; // prettier-ignore

const RETRY_MS = 3000;

/** A job at the machine: acts go out in order, wait while there is no connection, and go once. */
@Injectable()
export class JobStore {
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  private jobId = 0;
  private sending = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  readonly job = signal<Job | null>(null);
  readonly axes = signal<readonly Axis[]>([]);
  readonly wrong = signal("");
  readonly queue = signal<readonly QueuedAct[]>([]);
  readonly offline = signal(false);
  /** Acts the server would not take, with its words: shown until they are read. */
  readonly refused = signal<readonly { readonly act: JobAct; readonly words: string }[]>([]); // prettier-ignore
  /** Finished whole-chain tests since the job was opened, by axis letter, the newest first. */
  readonly runs = signal<Readonly<Record<string, readonly RunSummary[]>>>({});
  /** What each link of an axis is known to lose, by axis id. */
  readonly shares = signal<
    Readonly<Partial<Record<number, readonly LinkShare[]>>>
  >({});
  readonly progress = computed(() => {
    const job = this.job();
    if (!job) return null;
    const waiting = pendingEvents(job.events, this.queue());
    return jobProgress(job.plan, [...job.events, ...waiting]);
  });

  constructor() {
    const online = (): void => this.flush();
    window.addEventListener("online", online);
    inject(DestroyRef).onDestroy(() => {
      window.removeEventListener("online", online);
      if (this.timer) clearTimeout(this.timer);
    });
  }

  load(jobId: number): void {
    this.jobId = jobId;
    this.wrong.set("");
    this.queue.set(readQueue(localStorage, jobId));
    this.api.get("job", `/jobs/${jobId}`).subscribe({
      next: (job) => {
        this.job.set(job);
        this.offline.set(false);
        this.flush();
        this.loadAround(job);
      },
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }

  private loadAround(job: Job): void {
    this.api.get("machine", `/machines/${job.machineId}`).subscribe({
      next: ({ axes }) => this.axes.set(axes.filter((a) => job.axes.some((j) => j.axisId === a.id))), // prettier-ignore
      error: () => undefined,
    });
    for (const { axisId } of job.axes)
      this.api.get("axisLedger", `/axes/${axisId}/ledger`).subscribe({
        next: ({ links }) => this.shares.update((all) => ({ ...all, [axisId]: links })), // prettier-ignore
        error: () => undefined,
      });
    this.loadRuns();
  }

  /** Tests taken since, for the retest: nice to have, never in the way. */
  loadRuns(): void {
    const job = this.job();
    if (!job) return;
    for (const { axisId, letter } of job.axes)
      this.api.get("history", `/axes/${axisId}/history`).subscribe({
        next: ({ runs }) => {
          const since = runs.filter((r) => r.state === "finished" && r.lostMm !== null && r.at > job.openedAt && !isSplitTest(r.kind)); // prettier-ignore
          this.runs.update((all) => ({ ...all, [letter]: [...since].reverse() }));
        },
        error: () => undefined,
      }); // prettier-ignore
  }

  /** Takes an act: shown at once, kept in the browser, sent as soon as it can be. */
  act(act: JobAct): void {
    const waiting: QueuedAct = {
      act,
      at: new Date().toISOString(),
      by: this.preferences.who(),
    };
    this.setQueue([...this.queue(), waiting]);
    this.flush();
  }

  read(key: string): void {
    this.refused.update((all) => all.filter((r) => r.act.key !== key));
  }

  photo(step: string, file: File, caption: string, done: (wrong: string) => void): void {
    this.api.jobPhoto(this.jobId, file, step, caption).subscribe({
      next: (job) => {
        this.job.set(job);
        done("");
      },
      error: (error: unknown) => done(problemFrom(error).detail),
    });
  } // prettier-ignore

  private setQueue(queue: readonly QueuedAct[]): void {
    this.queue.set(queue);
    writeQueue(localStorage, this.jobId, queue);
  }

  private flush(): void {
    const [first] = this.queue() as readonly (QueuedAct | undefined)[];
    if (!first || this.sending || !this.job()) return;
    this.sending = true;
    const settle = (): void => {
      this.sending = false;
      this.setQueue(this.queue().filter((q) => q.act.key !== first.act.key));
      this.flush();
    };
    this.api.actOnJob(this.jobId, first.act, first.by).subscribe({
      next: (job) => {
        this.offline.set(false);
        this.job.set(job);
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
        this.refused.update((all) => [...all, { act: first.act, words: problem.detail }]); // prettier-ignore
        if (problem.current) this.job.set(problem.current as Job);
        settle();
      },
    });
  }

  private retryLater(): void {
    if (this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      this.flush();
    }, RETRY_MS);
  }
}
