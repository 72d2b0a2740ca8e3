import { TickBox } from "../shared/tick-box";
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { newKey } from "../data/new-key";
import { JobComing } from "./job-coming";
import { JobStore } from "./job-store";
import { kitGroups } from "./kit.view";

/** Everything to have ready before a job begins, ticked off as it lies there; on paper by itself. */
@Component({
  selector: "ip-kit",
  imports: [ButtonDirective, JobComing, RouterLink, TickBox],
  providers: [JobStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./job.css",
  template: `
    @if (store.job(); as job) {
      <main class="sheet sheet-page">
        <div class="acts no-print">
          <a pButton severity="secondary" [routerLink]="['/jobs', job.id]">Back to the job</a>
          <button type="button" pButton severity="secondary" (click)="print()">Print</button>
        </div>
        <h1>Kit for job {{ job.id }} · {{ job.nickname }}, bay {{ job.bay }}</h1>
        <p>
          <b>{{ job.title }}</b>. {{ people() }}
        </p>
        @if (store.offline()) {
          <p class="warn" role="status">
            No connection. What is ticked is kept in this browser and sent as soon as the server answers.
          </p>
        }
        @for (group of groups(); track group.title) {
          <fieldset class="choose">
            <legend>{{ group.title }}</legend>
            @for (item of group.items; track item.name) {
              <ip-tick-box [checked]="isReady(item.name)" (ticked)="tick(item.name, $event)"
                ><span
                  >{{ item.text }}
                  @if (item.note) {
                    <span class="state">{{ item.note }}</span>
                  }
                </span></ip-tick-box
              >
            }
          </fieldset>
        }
      </main>
    } @else {
      <ip-job-coming what="the kit" [jobId]="+jobId()" />
    }
  `,
})
export class KitPage {
  readonly jobId = input.required<string>();
  protected readonly store = inject(JobStore);
  protected readonly groups = computed(() => {
    const progress = this.store.progress();
    return progress ? kitGroups(progress.plan) : [];
  });
  protected readonly people = computed(() => {
    const steps = this.store.progress()?.plan.steps ?? [];
    return steps.some((s) => s.people === 2) ? "Two people for some steps." : "One person.";
  });

  constructor() {
    effect(() => {
      const id = Number(this.jobId());
      untracked(() => this.store.load(id));
    });
  }

  protected isReady(item: string): boolean {
    return this.store.progress()?.ready.has(item) ?? false;
  }

  protected tick(item: string, on: boolean): void {
    this.store.act({ kind: "kit", item, on, key: newKey() });
  }

  protected print(): void {
    window.print();
  }
}
