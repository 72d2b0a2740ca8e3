import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { ProgressBar } from "primeng/progressbar";
import type { Horizon } from "@iron/contract";
import { Api } from "../data/api";
import { saidIn } from "../data/problems";
import { ChartView, type DrawChart } from "../shared/chart";
import { dayText } from "../shared/times.text";
import { horizonChart } from "./horizon.view";
import { HorizonPlanner } from "./horizon-plan";
import { RoundsNav } from "./rounds-nav";
import { Trouble } from "../shared/trouble";

/** The coming half year by week: minutes against what people have, late, due and early. */
@Component({
  selector: "ip-half-year",
  imports: [ButtonDirective, ProgressBar, RouterLink, RoundsNav, ChartView, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <ip-rounds-nav />
    <main class="sheet">
      <h1>{{ heading() }}</h1>
      @if (error() || planner.error()) {
        <ip-trouble [message]="error() || planner.error()" (again)="load()" />
      } @else if (planner.progress() !== null) {
        <p role="status">Planning half a year… {{ percent() }} %</p>
        <p-progressbar [value]="percent()" ariaLabel="Planned" />
        <button type="button" pButton severity="secondary" (click)="planner.stop()">Stop</button>
      }
      @if (empty()) {
        <p>There is nothing to plan. A machine gets its usual points at station Keep of any of its axes.</p>
        <a pButton routerLink="/floor">Go to the floor</a>
      } @else if (sums().length) {
        <ip-chart
          [draw]="chart()"
          [height]="300"
          label="Minutes of lubrication by week: due, early and late, and what people have. The figures are in the table."
        />
        <p class="quiet">{{ how() }}</p>
        <div class="scroll-x" tabindex="0" role="region" aria-label="Weeks">
          <table class="rows days-table">
            <thead>
              <tr>
                <th scope="col">Week from</th>
                <th scope="col">Minutes</th>
                <th scope="col">There are</th>
                <th scope="col">Visits</th>
                <th scope="col">Machines</th>
                <th scope="col">Late</th>
                <th scope="col">Early</th>
              </tr>
            </thead>
            <tbody>
              @for (week of rows(); track week.from) {
                <tr>
                  <td>{{ week.text }}</td>
                  <td>{{ week.minutes }}</td>
                  <td>{{ week.available }}</td>
                  <td>{{ week.visits }}</td>
                  <td>{{ week.stops }}</td>
                  <td>{{ week.late || "" }}</td>
                  <td>{{ week.early || "" }}</td>
                </tr>
              }
            </tbody>
          </table>
        </div>
      } @else if (planner.progress() === null && !error()) {
        <p>
          Nothing is planned.
          <button type="button" pButton severity="secondary" (click)="load()">Plan it</button>
        </p>
      }
    </main>
  `,
})
export class HalfYear {
  private readonly api = inject(Api);
  protected readonly planner = inject(HorizonPlanner);
  protected readonly error = signal("");
  private readonly input = signal<Horizon | null>(null);
  protected readonly percent = computed(() => Math.round(100 * (this.planner.progress() ?? 0)));
  protected readonly sums = computed(() => {
    const input = this.input();
    const answer = this.planner.answer();
    return input && answer?.sums.length === input.weeks.length ? answer.sums : [];
  });
  protected readonly empty = computed(() => this.input()?.points.length === 0);
  protected readonly rows = computed(() => {
    const weeks = this.input()?.weeks ?? [];
    return this.sums().map((s, i) => ({
      ...s,
      minutes: Math.round(s.minutes),
      from: weeks[i].from,
      text: dayText(`${weeks[i].from}T12:00:00`),
    }));
  });
  protected readonly heading = computed(() => {
    const over = this.sums().filter((s) => s.minutes > s.available).length;
    if (this.empty()) return "No lubrication point yet";
    if (this.sums().length === 0) return "Half a year";
    return over
      ? `${over} ${over === 1 ? "week holds" : "weeks hold"} more than people have`
      : "Half a year fits into the minutes there are";
  });
  protected readonly how = computed(() => {
    const answer = this.planner.answer();
    if (!answer) return "";
    return `${answer.visits} visits. ${answer.replanned === null ? "Planned from the beginning." : answer.replanned === 0 ? "Nothing has changed since." : `${answer.replanned} ${answer.replanned === 1 ? "point has" : "points have"} changed; the rest keeps its week.`}`;
  });
  protected readonly chart = computed<DrawChart>(() => {
    const rows = this.rows();
    return (ink) => horizonChart(rows, ink);
  });

  constructor() {
    this.load();
  }

  protected load(): void {
    this.error.set("");
    this.api.call("horizon").subscribe({
      next: (input) => {
        this.input.set(input);
        if (input.points.length) this.planner.plan(input);
      },
      error: saidIn(this.error),
    });
  }
}
