import { ChangeDetectionStrategy, Component, computed, inject, input, model } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { judgeCircleRetest, type CircleFigure, type JobProgress, type PlannedStep } from "@iron/core";
import { circleAsked, circleFigures, type Job } from "@iron/contract";
import { Preferences } from "../data/preferences";
import { momentText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { JobStore } from "./job-store";

/** The circle that is the retest of an axis: take one, or take over one that was read since the work was done. */
@Component({
  selector: "ip-circle-retest",
  imports: [ButtonDirective, RouterLink, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="acts">
      <a pButton severity="secondary" [routerLink]="['/machines', job().machineId, 'circles', 'new']">Take a circle</a>
      @for (one of circles(); track one.figure.sessionId + one.label) {
        <button
          type="button"
          pButton
          severity="secondary"
          [attr.aria-pressed]="one.figure.sessionId === taken()?.sessionId && one.plane === taken()?.plane?.join('')"
          (click)="taken.set(one.figure)"
        >
          Use {{ one.label }}
        </button>
      }
    </div>
    @if (store.circlesFailed(); as why) {
      <ip-trouble [message]="why" (again)="store.loadCircles()" />
    } @else if (!store.circles()) {
      <p class="quiet" aria-busy="true">Looking for circles taken since…</p>
    }
    @if (judged(); as judged) {
      <p [class.warn]="!judged.passes" role="status">
        <b>{{ judged.passes ? "Passes." : "Does not pass." }}</b> {{ judged.message }}
      </p>
    }
  `,
  styles: `
    button[aria-pressed="true"] {
      box-shadow: inset 0 0 0 2px var(--blue);
    }
  `,
})
export class CircleRetest {
  readonly job = input.required<Job>();
  readonly progress = input.required<JobProgress>();
  readonly step = input.required<PlannedStep>();
  readonly taken = model<CircleFigure | null>(null);
  protected readonly store = inject(JobStore);
  private readonly preferences = inject(Preferences);
  private readonly letter = computed(() => this.step().axis ?? "");
  protected readonly circles = computed(() => {
    const all = this.store.circles();
    const asked = circleAsked(this.job(), this.progress().plan as Job["plan"], this.letter());
    return all && asked
      ? circleFigures(all, asked)
          .slice(0, 3)
          .map((figure) => {
            const plane = figure.plane.join("");
            return { figure, plane, label: `circle ${figure.sessionId}, ${plane}, ${momentText(figure.at)}` };
          })
      : [];
  });
  protected readonly judged = computed(() => {
    const figure = this.taken();
    return figure ? judgeCircleRetest(figure, this.letter(), this.preferences.system()) : null;
  });
}
