import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { jobProgress } from "@iron/core";
import type { Circles, Job } from "@iron/contract";
import { forkJoin, of, switchMap } from "rxjs";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { beforeAfter, circleBeside } from "./job.view";
import { Trouble } from "../shared/trouble";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";

/** Station Prove: before and after of every job on this axis, and the retest that is still wanted. */
@Component({
  selector: "ip-prove",
  imports: [May, LoadingLines, ButtonDirective, RouterLink, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>{{ heading() }}</h1>
      @if (error()) {
        <ip-trouble [message]="error()" (again)="load()" />
      } @else {
        @for (one of views(); track one.id) {
          <section class="boxed">
            <h2>
              <a [routerLink]="['/jobs', one.id]">Job {{ one.id }}</a
              >:
              {{ one.title }}
            </h2>
            <p>
              <b>{{ one.passes === null ? "Not retested yet." : one.passes ? "Passes." : "Does not pass." }}</b>
              {{ one.message }}
            </p>
            @if (one.circle) {
              <p>{{ one.circle }}</p>
            }
            @if (one.passes === null) {
              <p class="quiet">Nothing is closed and signed off before the same test at the same place has passed.</p>
              <div class="acts">
                <a pButton [routerLink]="['/jobs', one.id]">Go on with the job</a>
                <a
                  *ipMay="'startRun'"
                  pButton
                  severity="secondary"
                  [routerLink]="context.base() + '/measure/new/two-sided'"
                  >Take the test</a
                >
              </div>
            }
          </section>
        } @empty {
          @if (jobs()) {
            <p>
              No job has been opened on this axis. A job begins at Fix; its retest is kept here, before and after side
              by side.
            </p>
            <a pButton severity="secondary" [routerLink]="context.base() + '/fix'">Go to Fix</a>
          } @else {
            <ip-loading>Looking…</ip-loading>
          }
        }
        <section class="boxed">
          <h2>The circle</h2>
          <p>
            A circle shows two axes at once: what each loses when it turns round, how alike they follow, whether they
            stand square, and what trembles. Before and after a job they are laid side by side.
          </p>
          <a pButton severity="secondary" [routerLink]="['/machines', context.axis()?.machineId, 'circles']"
            >Circles of this machine</a
          >
        </section>
        <section class="boxed">
          <h2>The compensation table</h2>
          <p>
            What is left when the mechanics are in order: the error of screw or scale along the travel. It is read
            against a reference, turned into the control’s table, entered, and read again.
          </p>
          <a pButton severity="secondary" [routerLink]="context.base() + '/table'">Tables of this axis</a>
        </section>
      }
    </main>
  `,
  styles: `
    .boxed {
      max-width: 760px;
      margin-bottom: var(--space-4);
    }
    .boxed h2 {
      margin-top: 0;
    }
  `,
})
export class ProveStation {
  protected readonly context = inject(AxisContext);
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly jobs = signal<readonly Job[] | null>(null);
  protected readonly error = signal("");
  private readonly circles = signal<Circles["sessions"]>([]);
  protected readonly views = computed(() => {
    const letter = this.context.axis()?.config.letter;
    return (this.jobs() ?? []).map((job) => {
      const progress = jobProgress(job.plan, job.events);
      const compared = beforeAfter(job, progress, this.preferences.system()).find((c) => c.letter === letter);
      return {
        id: job.id,
        title: job.title,
        message: compared?.message ?? "",
        passes: compared?.passes ?? null,
        circle: circleBeside(job, this.circles()),
      };
    });
  });
  protected readonly heading = computed(() => {
    if (!this.jobs()) return "Prove";
    const open = this.views().filter((v) => v.passes === null).length;
    return open ? `${open} ${open === 1 ? "retest is" : "retests are"} wanted` : "Nothing waits for a retest";
  });

  constructor() {
    effect(() => {
      if (this.context.axis()) untracked(() => this.load());
    });
  }

  protected load(): void {
    const id = this.context.axis()?.id;
    if (id === undefined) return;
    this.error.set("");
    // Circles are beside the matter here: without them the jobs are shown all the same.
    const machineId = this.context.axis()?.machineId ?? 0;
    this.api.call("circles", { params: { id: machineId } }).subscribe({
      next: ({ sessions }) => this.circles.set(sessions),
      error: () => this.circles.set([]),
    });
    this.api
      .call("jobs")
      .pipe(
        switchMap((list) => {
          const mine = list.filter((j) => j.axisIds.includes(id));
          return mine.length ? forkJoin(mine.map((j) => this.api.call("job", { params: { id: j.id } }))) : of([]);
        }),
      )
      .subscribe({
        next: (jobs) => this.jobs.set(jobs),
        error: saidIn(this.error),
      });
  }
}
