import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { CorrectionCreate, CorrectionTrial } from "@iron/contract";
import { Preferences } from "../data/preferences";
import { ChartView, type DrawChart } from "../shared/chart";
import { tableChart } from "./table-chart";
import { pointRows, tableSeries, trialView } from "./table.view";

/** What a table promises, what stands against it, and its values. */
@Component({
  selector: "ip-table-says",
  imports: [ButtonDirective, ChartView, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrls: ["./circle.css", "../shared/folds.css"],
  styles: `
    td {
      white-space: nowrap;
    }
    table + p {
      margin-top: var(--space-4);
    }
  `,
  template: `
    @if (view(); as view) {
      @for (one of view.refused; track one) {
        <p class="bad" role="alert">{{ one }}</p>
      }
      @if (view.refused.length) {
        <p><b>No table yet: what can be mended is mended first.</b></p>
        <div class="acts">
          <a pButton [routerLink]="base() + '/locate'">Find where it is lost</a>
        </div>
        <h3>What a table would promise all the same</h3>
      }
      <p class="headline">{{ view.headline }}</p>
      @for (one of view.doubts; track one) {
        <p class="warn">{{ one }}</p>
      }
      <ip-chart
        [draw]="draw()"
        [height]="240"
        label="Deviation along the travel as it is and with the table, from either side. The figures are said below."
      />
      <table class="rows figures">
        <thead>
          <tr>
            <th scope="col">At 20 °C</th>
            <th scope="col">as it is</th>
            <th scope="col">with the table</th>
          </tr>
        </thead>
        <tbody>
          @for (row of view.figures; track row.name) {
            <tr>
              <th scope="row">{{ row.name }}</th>
              <td>{{ row.before }}</td>
              <td>{{ row.after }}</td>
            </tr>
          }
        </tbody>
      </table>
      @for (one of view.notes; track one) {
        <p>{{ one }}</p>
      }
      @for (one of view.beyond; track one) {
        <p class="quiet">{{ one }}</p>
      }
      <p class="quiet">{{ view.kelvin }}</p>
      <details>
        <summary>What is added at each point</summary>
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">Place</th>
              <th scope="col">{{ twoTables() ? "from minus" : "added" }}, {{ unit() }}</th>
              @if (twoTables()) {
                <th scope="col">from plus, {{ unit() }}</th>
              }
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track row.place) {
              <tr>
                <th scope="row">{{ row.place }}{{ row.held ? ", held" : "" }}</th>
                <td>{{ row.up }}</td>
                @if (twoTables()) {
                  <td>{{ row.down }}</td>
                }
              </tr>
            }
          </tbody>
        </table>
      </details>
    }
  `,
})
export class TableSays {
  readonly trial = input.required<Pick<CorrectionTrial, "made" | "prediction" | "may">>();
  readonly given = input.required<Pick<CorrectionCreate, "warmth">>();
  /** Address of the axis. */
  readonly base = input.required<string>();
  private readonly preferences = inject(Preferences);
  protected readonly view = computed(() => trialView(this.trial(), this.given(), this.preferences.system()));
  protected readonly twoTables = computed(() => this.trial().made.table.down !== null);
  protected readonly rows = computed(() => pointRows(this.trial(), this.preferences.system()));
  protected readonly unit = computed(() => (this.preferences.system() === "metric" ? "µm" : "tenths"));
  protected readonly draw = computed<DrawChart>(() => {
    const series = tableSeries(this.trial(), this.preferences.system());
    return (ink) => tableChart(series, ink);
  });
}
