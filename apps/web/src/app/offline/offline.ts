import { createEnvironmentInjector, effect, EnvironmentInjector, inject, Injectable } from "@angular/core";
import { toObservable } from "@angular/core/rxjs-interop";
import { provideServiceWorker, SwUpdate } from "@angular/service-worker";
import {
  auditTime,
  catchError,
  EMPTY,
  filter,
  forkJoin,
  interval,
  merge,
  type Observable,
  startWith,
  switchMap,
} from "rxjs";
import { Api } from "../data/api";
import { Changes } from "../data/changes";
import { Door } from "../data/door";
import { Waiting } from "../data/waiting";
import { JobQueues } from "../job/job-queues";
import { PhotoQueue } from "../job/photo-queue";
import { VisitQueue } from "../lubrication/visit-queue";
import { SoundQueue } from "../sound/sound-queue";

const WORKER = "/ngsw-worker.js";
const HOUR_MS = 3_600_000;
/** What can be walked is laid by anew so long after it was changed, ms. */
const LAID_BY_AFTER_MS = 30_000;

/** The server runs on this very machine: without it there is nothing to be without. */
const isOwnMachine = (host: string): boolean => ["localhost", "127.0.0.1", "[::1]"].includes(host);

/**
 * What is done without a server. What waits goes out, whatever page is shown; on a network the page itself is kept, so
 * that it opens without one, and with it rounds and open jobs, so that they can be walked.
 */
@Injectable({ providedIn: "root" })
export class Offline {
  private readonly api = inject(Api);
  private readonly door = inject(Door);
  private readonly waiting = inject(Waiting);
  private readonly changes = inject(Changes);
  private readonly injector = inject(EnvironmentInjector);
  private readonly queues = {
    jobs: inject(JobQueues),
    photos: inject(PhotoQueue),
    sounds: inject(SoundQueue),
    // It takes up by itself what was left.
    visits: inject(VisitQueue),
  };
  private readonly met = toObservable(this.door.me);

  begin(): void {
    this.queues.jobs.recall();
    void this.queues.photos.recall();
    void this.queues.sounds.recall();
    if (isOwnMachine(location.hostname) || !("serviceWorker" in navigator)) return;
    void this.keepPage().catch(() => undefined);
  }

  /** Where the browser will not, as where the certificate is not trusted, everything is as it was: with a server. */
  private async keepPage(): Promise<void> {
    await navigator.serviceWorker.register(WORKER, { updateViaCache: "none" });
    await navigator.serviceWorker.ready;
    const providers = [provideServiceWorker(WORKER.slice(1), { enabled: true })];
    const updates = createEnvironmentInjector(providers, this.injector).get(SwUpdate);
    updates.versionUpdates
      .pipe(filter((update) => update.type === "VERSION_READY"))
      .subscribe(() => this.waiting.newer.set(true));
    updates.unrecoverable.subscribe(() => this.waiting.newer.set(true));
    // What the browser keeps comes without a word of how old it is: the head band says so.
    effect(() => this.waiting.cut.set(this.changes.cut()), { injector: this.injector });
    interval(HOUR_MS).subscribe(() => void updates.checkForUpdate().catch(() => undefined));
    merge(this.met, this.changes.of("jobs", "rounds", "lube-points").pipe(auditTime(LAID_BY_AFTER_MS)))
      .pipe(
        startWith(null),
        filter(() => this.door.me() !== null && !this.door.shut() && !this.door.stale()),
        auditTime(1000),
        switchMap(() => this.layBy().pipe(catchError(() => EMPTY))),
      )
      .subscribe();
  }

  /** Asked for once, it is there when no server answers. */
  private layBy(): Observable<unknown> {
    const open = this.api
      .call("jobs")
      .pipe(
        switchMap((jobs) =>
          forkJoin(
            jobs
              .filter((job) => job.finishedAt === null)
              .flatMap((job): Observable<unknown>[] => [
                this.api.call("job", { params: { id: job.id } }),
                this.api.call("machine", { params: { id: job.machineId } }),
                ...job.axisIds.flatMap((id): Observable<unknown>[] => [
                  this.api.call("history", { params: { id } }),
                  this.api.call("axisLedger", { params: { id } }),
                ]),
              ]),
          ),
        ),
      );
    return merge(
      open,
      this.api.call("rounds"),
      this.api.call("indicators"),
      this.api.call("shop"),
      this.api.call("floor"),
    );
  }
}
