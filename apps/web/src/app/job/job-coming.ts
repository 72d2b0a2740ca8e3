import { ChangeDetectionStrategy, Component, inject, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { LoadingLines } from "../shared/loading";
import { Trouble } from "../shared/trouble";
import { JobStore } from "./job-store";

/** What stands on a page of a job until the job is there: that it comes, or why it does not. */
@Component({
  selector: "ip-job-coming",
  imports: [ButtonDirective, LoadingLines, RouterLink, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      @if (store.error(); as error) {
        <ip-trouble [message]="error" (again)="store.load(jobId())"
          ><a pButton severity="secondary" routerLink="/jobs">All jobs</a></ip-trouble
        >
      } @else {
        <ip-loading>Loading {{ what() }}…</ip-loading>
      }
    </main>
  `,
})
export class JobComing {
  readonly jobId = input.required<number>();
  readonly what = input.required<string>();
  protected readonly store = inject(JobStore);
}
