import {
  ChangeDetectionStrategy,
  Component,
  inject,
  input,
} from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import type { Assessment } from "@iron/contract";
import { catchError, of } from "rxjs";
import { Api } from "../../data/api";
import { money, percentWords } from "./case.view";

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
          @for (option of options(); track option.words) {
            <tr [class.not]="option.unless">
              <td>
                {{ option.words }}
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
    <p class="quiet">
      Expected: with standing, retest and what follows when it was not that.
    </p>
  `,
})
export class RemedyTable {
  readonly options = input.required<Assessment["options"]>();
  private readonly shop = toSignal(
    inject(Api)
      .get("shop", "/shop")
      .pipe(catchError(() => of(null))),
    { initialValue: null },
  );
  protected readonly percent = percentWords;

  protected sum(value: number): string {
    return money(value, this.shop()?.currency ?? "EUR");
  }
}
