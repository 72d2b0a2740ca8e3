import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { Preferences } from "../data/preferences";
import { AxisContext } from "../machine/axis/axis-context";
import { momentText } from "../shared/times.text";
import type { Case, Diagnosis } from "@iron/contract";
import { measuredText, resultText } from "./tested.view";
import { CaseStore } from "./case-store";
import { sentence } from "./case.view";

/** Where a size was measured: in a job, on a circle or in a test. */
function pathOf({ runId, jobId, circleId }: Diagnosis["measured"][number], base: string): string {
  if (runId !== null) return `${base}/runs/${runId}`;
  return circleId === null ? `/jobs/${jobId}` : `/circles/${circleId}`;
}

/** What was measured and found for this axis; a result can be set aside, and stays on record. */
@Component({
  selector: "ip-result-list",
  imports: [ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    <h2>Results</h2>
    @if (!results().length && !measured().length && !heard()) {
      <p class="quiet">None yet.</p>
    }
    <ul class="results">
      @for (one of measured(); track one.path + one.when) {
        <li>
          <span
            ><a [routerLink]="one.path">{{ one.text }}</a
            ><span class="quiet when">{{ one.when }}</span></span
          >
        </li>
      }
      @if (heard(); as one) {
        <li>
          <span
            ><a [routerLink]="context.base() + '/listen'" [queryParams]="{ sound: one.soundId }">{{ one.text }}</a
            ><span class="quiet when">{{ one.when }}</span></span
          >
        </li>
      }
      @for (one of results(); track one.id) {
        <li [id]="'result-' + one.id">
          <span
            ><span [class.back]="one.withdrawn">{{ one.text }}</span>
            @if (one.handTest) {
              <a [routerLink]="context.base() + '/series/' + one.handTest">its readings</a>
            }
            <span class="quiet when">{{ one.when }}</span></span
          >
          @if (editable()) {
            @if (one.withdrawn) {
              <button
                type="button"
                pButton
                text
                (click)="store.restore(one.id)"
                [attr.aria-label]="'Take back in: ' + one.text"
              >
                Take back in
              </button>
            } @else {
              <button
                type="button"
                pButton
                text
                (click)="store.withdraw(one.id)"
                [attr.aria-label]="'Set aside: ' + one.text"
              >
                Set aside
              </button>
            }
          }
        </li>
      }
    </ul>
  `,
})
export class ResultList {
  readonly editable = input.required<boolean>();
  protected readonly context = inject(AxisContext);
  protected readonly store = inject(CaseStore);
  private readonly preferences = inject(Preferences);
  protected readonly results = computed(() =>
    (this.store.current()?.results ?? [])
      .filter((r) => r.axisId === this.context.axis()?.id)
      .map((r) => ({
        id: r.id,
        withdrawn: r.withdrawn,
        handTest: r.data?.kind === "series" ? r.data.seriesId : null,
        text: this.said(r),
        when: `${momentText(r.at)}, ${r.by}`,
      })),
  );
  protected readonly measured = computed(() =>
    (this.store.diagnosis()?.measured ?? []).map((m) => ({
      path: pathOf(m, this.context.base()),
      text: measuredText(m, this.preferences.system()),
      when: momentText(m.at),
    })),
  );

  protected readonly heard = computed(() => {
    const heard = this.store.diagnosis()?.heard;
    return heard ? { soundId: heard.soundId, text: sentence(heard.said), when: momentText(heard.at) } : null;
  });

  private said(result: Case["results"][number]): string {
    const axis = this.context.axis();
    return axis ? resultText(result, axis.config) : "";
  }
}
