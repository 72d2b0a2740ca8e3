import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import { locateTest } from "@iron/core";
import type { Diagnosis } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { AxisContext } from "../machine/axis/axis-context";
import { May } from "../shared/may";

/** Tests shown besides the next one; the others fold away. */
const SHOWN_TESTS = 6;

/** Where a test is done, from its axis: a guided run at the bench, where it is listened to, or its own page. */
export function testPath(test: { readonly id: string; readonly guided: boolean }): string {
  if (locateTest(test.id)?.hears) return "/listen";
  if (!test.guided) return `/locate/${test.id}`;
  return `/measure/new/${test.id === "whole-chain" ? "two-sided" : test.id}`;
}

/** Tests besides the next one, by what they are worth; those that cannot be done here, with why. */
@Component({
  selector: "ip-test-choices",
  imports: [May, ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    <h2>Other tests</h2>
    <ul class="tests">
      @for (test of split().worth; track test.id) {
        <li>
          <span class="what">
            <span>{{ test.name }}{{ test.done ? ", done " + (test.done === 1 ? "once" : "twice") : "" }}</span>
            <span class="quiet">looks at {{ test.isolates }}</span>
            @if (test.say) {
              <span class="quiet">{{ test.say }}</span>
            }
          </span>
          <span class="minutes">{{ test.minutes }} min</span>
          <a
            *ipMay="'addResult'"
            pButton
            severity="secondary"
            [routerLink]="base() + testPath(test)"
            [attr.aria-label]="'Do it: ' + test.name"
            >Do it</a
          >
        </li>
      }
    </ul>
    <details>
      <summary>{{ split().rest.length }} more that would tell less</summary>
      <ul class="tests">
        @for (test of split().rest; track test.id) {
          <li>
            <span class="what">
              <span>{{ test.name }}</span>
              <span class="quiet">looks at {{ test.isolates }}</span>
            </span>
            <span class="minutes">{{ test.minutes }} min</span>
            <a
              *ipMay="'addResult'"
              pButton
              severity="secondary"
              [routerLink]="base() + testPath(test)"
              [attr.aria-label]="'Do it: ' + test.name"
              >Do it</a
            >
          </li>
        }
      </ul>
    </details>
    <details>
      <summary>{{ impossible().length }} that cannot be done here</summary>
      <ul>
        @for (test of impossible(); track test.id) {
          <li>{{ test.name }}: {{ test.why }}</li>
        }
      </ul>
    </details>
  `,
})
export class TestChoices {
  readonly tests = input.required<Diagnosis["tests"]>();
  readonly impossible = input.required<Diagnosis["impossible"]>();
  protected readonly base = inject(AxisContext).base;
  protected readonly testPath = testPath;
  protected readonly split = computed(() => {
    const all = this.tests();
    const worth = all.filter((t) => !t.next && t.value > t.cost);
    return {
      worth: worth.slice(0, SHOWN_TESTS),
      rest: [...worth.slice(SHOWN_TESTS), ...all.filter((t) => !t.next && t.value <= t.cost)],
    };
  });
}
