import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { forkJoin } from "rxjs";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Preferences } from "../data/preferences";
import { LoadingLines } from "../shared/loading";
import { StateMark } from "../shared/state-mark";
import { Trouble } from "../shared/trouble";
import { CircleLimitsForm } from "./circle-limits";
import { partHistory, sessionRows } from "./circles.view";
import { May } from "../shared/may";

/** All circles of a machine, what each part has been, and what they are judged by. */
@Component({
  selector: "ip-circles",
  imports: [May, ButtonDirective, CircleLimitsForm, LoadingLines, RouterLink, StateMark, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      @if (loaded.value(); as all) {
        <h1>
          Circles <span class="quiet">{{ all.machine.nickname }}</span>
        </h1>
        <div class="acts">
          <a *ipMay="'startCircle'" pButton [routerLink]="['/machines', all.machine.id, 'circles', 'new']"
            >Take a circle</a
          >
          <a pButton severity="secondary" [routerLink]="['/machines', all.machine.id]">The machine</a>
        </div>
        <ul class="sessions">
          @for (session of rows(); track session.id) {
            <li>
              <a [routerLink]="['/circles', session.id]"
                ><b>{{ session.when }}</b></a
              >
              <span class="quiet">{{ session.by }}{{ session.state ? ", " + session.state : "" }}</span>
              @for (plane of session.planes; track plane.letters) {
                <p>
                  <b>{{ plane.letters }}</b>&ngsp;<ip-state-mark [state]="plane.mark" [say]="plane.word" />
                  {{ plane.headline }} <span class="quiet">{{ plane.gBoth }}</span>
                </p>
              }
            </li>
          } @empty {
            <li>
              No circle yet. A quarter of an hour shows for two axes at once what each loses when it turns round, how
              alike they follow, whether they stand square, and what trembles.
            </li>
          }
        </ul>
        @if (history(); as history) {
          <h2>What each part has been</h2>
          <div class="scroll-x" tabindex="0" role="region" aria-label="Parts of the circles over time">
            <table class="rows">
              <thead>
                <tr>
                  <th scope="col">Part</th>
                  @for (column of history.columns; track column.id) {
                    <th scope="col">{{ column.when }}</th>
                  }
                  <th scope="col">Grows by more than chance</th>
                </tr>
              </thead>
              <tbody>
                @for (row of history.rows; track row.name) {
                  <tr>
                    <th scope="row">{{ row.name }}</th>
                    @for (value of row.values; track $index) {
                      <td>{{ value }}</td>
                    }
                    <td>{{ row.trend }}</td>
                  </tr>
                }
              </tbody>
            </table>
          </div>
        }
        <ip-circle-limits [machineId]="all.machine.id" [record]="all.circles.limits" (kept)="loaded.again()" />
      } @else if (loaded.message()) {
        <ip-trouble [message]="loaded.message()" (again)="loaded.again()" />
      } @else {
        <ip-loading>Loading the circles…</ip-loading>
      }
    </main>
  `,
  styles: `
    .sessions {
      list-style: none;
      padding: 0;
      margin: var(--space-4) 0;
    }
    .sessions li {
      border-top: 1px solid var(--rule);
      padding: var(--space-3) 0;
    }
    .sessions p {
      margin: var(--space-1) 0 0;
    }
    .sessions a {
      display: inline-flex;
      align-items: center;
      min-height: var(--touch);
      margin-right: var(--space-2);
    }
  `,
})
export class CirclesPage {
  readonly machineId = input.required<string>();
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly loaded = new Loaded(() =>
    forkJoin({
      machine: this.api.call("machine", { params: { id: this.machineId() } }),
      circles: this.api.call("circles", { params: { id: this.machineId() } }),
    }),
  ).alive("circle-planes", "circles", "circle-passes");
  protected readonly rows = computed(() => {
    const all = this.loaded.value();
    return all ? sessionRows(all.circles, all.machine.axes, this.preferences.system()) : [];
  });
  protected readonly history = computed(() => {
    const all = this.loaded.value();
    return all ? partHistory(all.circles, this.preferences.system()) : null;
  });

  constructor() {
    effect(() => {
      this.machineId();
      untracked(() => this.loaded.again());
    });
  }
}
