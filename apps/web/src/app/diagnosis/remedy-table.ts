import { ChangeDetectionStrategy, Component, inject, input } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import type { Diagnosis } from "@iron/contract";
import { catchError, of } from "rxjs";
import { Api } from "../data/api";
import { money } from "../shared/amount.text";
import { percentText, sisterText } from "./case.view";

/** What can be done, what it costs, and what it costs when it was not that. */
@Component({
  selector: "ip-remedy-table",
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    <div class="scroll-x" tabindex="0" role="region" aria-label="What to do">
      <table class="rows options">
        <thead>
          <tr>
            <th scope="col">What to do</th>
            <th scope="col">Costs</th>
            <th scope="col">Right</th>
            <th scope="col">Expected</th>
          </tr>
        </thead>
        <tbody>
          @for (option of options(); track option.message) {
            <tr [class.not]="option.unless">
              <td>
                {{ option.message }}
                @if (option.unless) {
                  <br /><span class="wrong">{{ option.unless }}</span>
                }
              </td>
              <td>{{ sum(option.cost) }}</td>
              <td>{{ percent(option.chanceRight) }}</td>
              <td>{{ sum(option.expectedCost) }}</td>
            </tr>
          }
        </tbody>
      </table>
    </div>
    <p class="quiet">Expected: with standing, retest and what follows when it was not that.</p>
    @if (sisters().length) {
      <h3>The sisters too?</h3>
      <ul class="plain">
        @for (sister of sisters(); track sister.letter) {
          <li>{{ sisterSays(sister) }}</li>
        }
      </ul>
      <p class="quiet">
        Now: a bearing set and the shorter job, access shared. Later: the chance that it goes within two years, times
        the whole job unplanned.
      </p>
    }
  `,
})
export class RemedyTable {
  readonly options = input.required<Diagnosis["options"]>();
  readonly sisters = input<Diagnosis["sisters"]>([]);
  private readonly shop = toSignal(
    inject(Api)
      .call("shop")
      .pipe(catchError(() => of(null))),
    { initialValue: null },
  );
  protected readonly percent = percentText;

  protected sisterSays(sister: Diagnosis["sisters"][number]): string {
    return sisterText(sister, (value) => this.sum(value));
  }

  protected sum(value: number): string {
    return money(value, this.shop()?.currency ?? "EUR");
  }
}
