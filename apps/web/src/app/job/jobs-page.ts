import { ChangeDetectionStrategy, Component, computed, inject } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { JobSummary } from "@iron/contract";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { dayText, momentText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { TableModule } from "primeng/table";
import { RowOf } from "../shared/row-of";
import { RowsPipe } from "../shared/rows.pipe";
import { LoadingLines } from "../shared/loading";

/** All jobs of the shop: those at work first. */
@Component({
  selector: "ip-jobs",
  imports: [LoadingLines, RowOf, RowsPipe, TableModule, ButtonDirective, RouterLink, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>{{ heading() }}</h1>
      @if (loaded.message()) {
        <ip-trouble [message]="loaded.message()" (again)="loaded.again()" />
      } @else if (jobs(); as list) {
        @if (list.length === 0) {
          <p>
            A job begins at station Fix of an axis: pick a machine on the floor, then its axis. A verdict at Locate
            leads there too.
          </p>
          <a pButton routerLink="/floor">Go to the floor</a>
        } @else {
          <div class="scroll-x" tabindex="0" role="region" aria-label="Jobs">
            <p-table tableStyleClass="rows" dataKey="id" [value]="list | rows"
              ><ng-template #header>
                <tr>
                  <th scope="col" pSortableColumn="id">Job <p-sortIcon field="id" /></th>
                  <th scope="col" class="words" pSortableColumn="nickname">Machine <p-sortIcon field="nickname" /></th>
                  <th scope="col" class="words" pSortableColumn="title">Work <p-sortIcon field="title" /></th>
                  <th scope="col" class="words" pSortableColumn="openedAt">Opened <p-sortIcon field="openedAt" /></th>
                  <th scope="col" class="words">State</th>
                  <th scope="col"><span class="sr-only">Open it</span></th>
                </tr> </ng-template
              ><ng-template #body let-job [ipRowOf]="list">
                <tr>
                  <td>{{ job.id }}</td>
                  <td class="words">Bay {{ job.bay }} · {{ job.nickname }}</td>
                  <td class="words">{{ job.title }}</td>
                  <td class="words">{{ moment(job.openedAt) }}, {{ job.by }}</td>
                  <td class="words">{{ state(job) }}</td>
                  <td>
                    <a
                      pButton
                      severity="secondary"
                      [routerLink]="['/jobs', job.id]"
                      [attr.aria-label]="(job.finishedAt ? 'Read' : 'Go on with') + ' job ' + job.id"
                      >{{ job.finishedAt ? "Read" : "Go on" }}</a
                    >
                  </td>
                </tr>
              </ng-template></p-table
            >
          </div>
        }
      } @else {
        <ip-loading>Loading the jobs…</ip-loading>
      }
    </main>
  `,
})
export class JobsPage {
  private readonly api = inject(Api);
  protected readonly loaded = Loaded.now(() => this.api.call("jobs")).alive();
  protected readonly jobs = computed(
    () =>
      this.loaded.value()?.toSorted((a, b) => Number(!!a.finishedAt) - Number(!!b.finishedAt) || b.id - a.id) ?? null,
  );
  protected readonly moment = momentText;
  protected readonly heading = computed(() => {
    const list = this.jobs();
    if (!list) return "Jobs";
    const open = list.filter((j) => !j.finishedAt).length;
    if (list.length === 0) return "No job yet";
    return open === 0 ? "No job is at work" : `${open} ${open === 1 ? "job" : "jobs"} at work`;
  });

  protected state(job: JobSummary): string {
    if (job.finishedAt)
      return `signed off ${dayText(job.finishedAt)}; check ${job.checkOn ? dayText(`${job.checkOn}T12:00:00`) : ""}`;
    return `${job.done} of ${job.steps} steps; next: ${job.next}`;
  }
}
