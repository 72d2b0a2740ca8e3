import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { Preferences } from "../data/preferences";
import { AxisContext } from "../machine/axis/axis-context";
import { momentText } from "../shared/times.text";
import type { Case } from "@iron/contract";
import { measuredText, resultText } from "./tested.view";
import { CaseStore } from "./case-store";

/** What was measured and found for this axis; a result can be set aside, and stays on record. */
@Component({
  selector: "ip-result-list",
  imports: [ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    <h2>Results</h2>
    @if (!results().length && !measured().length) {
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
      path: m.runId === null ? `/jobs/${m.jobId}` : `${this.context.base()}/runs/${m.runId}`,
      text: measuredText(m, this.preferences.system()),
      when: momentText(m.at),
    })),
  );

  private said(result: Case["results"][number]): string {
    const axis = this.context.axis();
    return axis ? resultText(result, axis.config) : "";
  }
}
