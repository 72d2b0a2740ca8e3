import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import type { Diagnosis } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "./case-store";
import { meaningText, placeMm, testFor } from "./case.view";
import { testPath } from "./test-choices";
import { May } from "../shared/may";

/** The test that tells most per minute, what each outcome of it would mean, and what else its set-up is good for. */
@Component({
  selector: "ip-next-test-panel",
  imports: [May, ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    @for (test of lead(); track test.id) {
      <section class="boxed next lead" aria-label="Next test">
        <h3>{{ diagnosis().fits ? "What tells most per minute" : "Read this again first" }}</h3>
        <p>
          <b>{{ test.name }}, {{ test.minutes }} min{{ test.stands ? " while the set-up stands" : "" }}.</b>
          {{ testFor(test, diagnosis().leading) }}
          @if (test.say) {
            <span class="wrong">{{ test.say }}</span>
          }
        </p>
        @if (meanings().length) {
          <ul class="meanings" aria-label="What each outcome would mean">
            @for (line of meanings(); track line) {
              <li>{{ line }}</li>
            }
          </ul>
        }
        <a
          *ipMay="'addResult'"
          pButton
          [routerLink]="base() + testPath(test)"
          [queryParams]="at()"
          [attr.aria-label]="'Do it: ' + test.name"
          >Do it</a
        >
        @if (diagnosis().together; as other) {
          <p class="quiet together">
            While that is set up:
            <a [routerLink]="base() + testPath(other)" [queryParams]="at()">{{ other.name }}</a>,
            {{ other.minutes }} min more.
          </p>
        }
      </section>
    }
  `,
})
export class NextTestPanel {
  readonly diagnosis = input.required<Diagnosis>();
  private readonly context = inject(AxisContext);
  private readonly store = inject(CaseStore);
  protected readonly base = this.context.base;
  protected readonly testPath = testPath;
  protected readonly testFor = testFor;
  protected readonly lead = computed(() => this.diagnosis().tests.filter((test) => test.next));
  protected readonly meanings = computed(() => (this.diagnosis().meanings ?? []).map(meaningText));
  /** Tests are made where it is noticed. */
  protected readonly at = computed(() => {
    const axis = this.context.axis();
    const mm = axis ? placeMm(this.store.told().place, axis.config.travelMm) : null;
    return mm === null ? {} : { at: mm };
  });
}
