import { computed, EnvironmentInjector, inject, Injectable, runInInjectionContext, signal } from "@angular/core";
import { parseByTodaysNames, type Job, type JobAct, type Problem } from "@iron/contract";
import { Api } from "../data/api";
import { keptList } from "../data/kept-list";
import { refusals, type Refusals } from "../data/refusals";
import { fileOf, Waiting, type NotTaken } from "../data/waiting";
import { Outbox } from "../shared/outbox";
import type { QueuedAct } from "./job-queue";

/** An act the server would not take, with its words. */
export interface RefusedAct {
  readonly act: JobAct;
  readonly message: string;
}

/** The acts of one job on their way. */
export interface JobBox {
  readonly out: Outbox<QueuedAct, Job>;
  /** The job as it was answered last, with or without the act; null: not since the page began. */
  readonly job: ReturnType<typeof signal<Job | null>>;
  readonly refused: Refusals<RefusedAct>;
}

const nameOf = (jobId: number): string => `iron-job-${jobId}-waiting`;
const refusedOf = (jobId: number): string => `iron-job-${jobId}-refused`;
/** An act in words. */
const WORDS: Readonly<Record<JobAct["kind"], string>> = {
  sign: "a step signed",
  undo: "a step taken back",
  note: "a note",
  kit: "what lies ready",
  "stop-here": "to stop here",
  "add-work": "more work",
  reorder: "another order",
};
const NAME = /^iron-job-(\d+)-(?:waiting|refused)$/;

/** The acts of all jobs on their way, also of those that no page shows. */
@Injectable({ providedIn: "root" })
export class JobQueues {
  private readonly api = inject(Api);
  private readonly waiting = inject(Waiting);
  private readonly injector = inject(EnvironmentInjector);
  private readonly boxes = new Map<number, JobBox>();

  /** That of a job, with what an earlier page left behind. */
  of(jobId: number): JobBox {
    const known = this.boxes.get(jobId);
    if (known) return known;
    const made = runInInjectionContext(this.injector, () => this.boxOf(jobId));
    this.boxes.set(jobId, made);
    return made;
  }

  /** What earlier pages left behind goes out now, whatever page is shown. */
  recall(): void {
    for (const key of Object.keys(localStorage)) {
      const id = NAME.exec(key)?.[1];
      if (id !== undefined) this.of(Number(id)).out.flush();
    }
  }

  private boxOf(jobId: number): JobBox {
    const kept = keptList<QueuedAct>(nameOf(jobId), (q) => q.act.key, parseByTodaysNames);
    const job = signal<Job | null>(null);
    const refused = refusals<RefusedAct>(refusedOf(jobId), (r) => r.act.key, parseByTodaysNames);
    const params = { id: jobId };
    const out = new Outbox<QueuedAct, Job>({
      keyOf: (q) => q.act.key,
      send: ({ act, by, seal }) => this.api.call("actOnJob", { params, body: act, by, seal }),
      sealable: ({ act }) => ({ address: this.api.address("actOnJob", { params }), body: JSON.stringify(act) }),
      taken: (answer) => job.set(answer),
      refused: (problem: Problem, { act }) => {
        refused.add({ act, message: problem.detail });
        if (problem.current) job.set(problem.current as Job);
      },
      changed: (waiting, gone) => kept.keep(waiting, gone),
      // A step stands on the steps before it.
      inOrder: true,
    });
    out.recall(kept.all());
    const told = ({ act, message }: RefusedAct): NotTaken => ({
      ...{ key: act.key, what: `Job ${jobId}: ${WORDS[act.kind]}`, message, path: `/jobs/${jobId}` },
      file: () => fileOf({ job: jobId, act }),
      read: () => refused.read(act.key),
    });
    this.waiting.tell(computed(() => refused.all().map(told)));
    return { out, job, refused };
  }
}
