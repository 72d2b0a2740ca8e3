import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { formatDeviation } from "@iron/core";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { LoadingLines } from "../shared/loading";
import { momentText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { WhereItWorks } from "./where-it-works";
import { May } from "../shared/may";

/** Compensation tables of an axis: versions, what they can be made from, and where along the travel it works. */
@Component({
  selector: "ip-tables",
  imports: [May, ButtonDirective, LoadingLines, RouterLink, Trouble, WhereItWorks],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>
        Compensation table <span class="quiet">{{ context.axis()?.config?.letter }}</span>
      </h1>
      @if (loaded.value(); as all) {
        @if (refusal()) {
          <p class="bad" role="alert">{{ refusal() }}</p>
        }
        <ul class="versions">
          @for (one of versions(); track one.id) {
            <li>
              <a [routerLink]="context.base() + '/table/' + one.id"
                ><b>Version {{ one.version }}</b></a
              >
              <span>{{ one.state }}</span>
              <span class="quiet">{{ one.made }}</span>
              <p>{{ one.says }}</p>
              @if (one.worked) {
                <p class="warn">{{ one.worked }}</p>
              }
              @if (one.active) {
                <button
                  *ipMay="'takeOutCorrection'"
                  type="button"
                  pButton
                  severity="secondary"
                  [disabled]="busy()"
                  (click)="takeOut()"
                >
                  It has been taken out of the control
                </button>
              }
            </li>
          } @empty {
            <li>
              No table yet. It is the last thing that is done to an axis: after the screw, the bearings and the
              alignment, when what it loses at a reversal is under its limit, and warm as it works.
            </li>
          }
        </ul>
        @if (all.profiles.length) {
          <div class="acts">
            <a *ipMay="'keepCorrection'" pButton [routerLink]="context.base() + '/table/new'">Make a table</a>
            <a
              *ipMay="'startRun'"
              pButton
              severity="secondary"
              [routerLink]="context.base() + '/measure/new/travel-profile'"
              >Read the travel again</a
            >
          </div>
        } @else {
          <p>
            A table is made from a travel profile along one reference that keeps its zero: a long scale, a step gauge, a
            laser. None has been read on this axis.
          </p>
          <div class="acts">
            <a *ipMay="'startRun'" pButton [routerLink]="context.base() + '/measure/new/travel-profile'"
              >Read the travel</a
            >
            <a *ipMay="'importRun'" pButton severity="secondary" [routerLink]="context.base() + '/import'"
              >Readings from a file</a
            >
          </div>
        }
        <ip-where-it-works [losses]="all.losses" />
      } @else if (loaded.message()) {
        <ip-trouble [message]="loaded.message()" (again)="loaded.again()" />
      } @else {
        <ip-loading>Loading the tables…</ip-loading>
      }
    </main>
  `,
  styles: `
    .versions {
      list-style: none;
      padding: 0;
      margin: var(--space-4) 0;
      max-width: 760px;
    }
    .versions li {
      border-top: 1px solid var(--rule);
      padding: var(--space-3) 0;
    }
    .versions p {
      margin: var(--space-1) 0;
    }
    .versions a {
      display: inline-flex;
      align-items: center;
      min-height: var(--touch);
      margin-right: var(--space-2);
    }
    .versions span {
      margin-right: var(--space-3);
    }
    p {
      max-width: 760px;
    }
  `,
})
export class TablesPage {
  protected readonly context = inject(AxisContext);
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly busy = signal(false);
  protected readonly refusal = signal("");
  protected readonly loaded = new Loaded(() =>
    this.api.call("corrections", { params: { id: this.context.axis()?.id ?? 0 } }),
  ).alive("corrections", "axes");
  protected readonly versions = computed(() => {
    const system = this.preferences.system();
    const dev = (mm: number): string => formatDeviation(mm, { system });
    return (this.loaded.value()?.versions ?? []).map((v) => ({
      ...v,
      made: `${momentText(v.at)}, ${v.by}${v.note ? `: ${v.note}` : ""}`,
      state: v.active
        ? `in the control since ${momentText(v.entered?.at ?? v.at)}`
        : v.entered
          ? "was in the control"
          : "never entered",
      says: `${dev(v.beforeMm)} from end to end become ${dev(v.afterMm)}, as it promised.`,
      worked: v.workedOnAt
        ? `The axis was worked on since, ${momentText(v.workedOnAt)}: this table is for what was there before. Read the travel again.`
        : "",
    }));
  });

  constructor() {
    effect(() => {
      if (this.context.axis()) untracked(() => this.loaded.again());
    });
  }

  protected takeOut(): void {
    const id = this.context.axis()?.id;
    if (id === undefined) return;
    this.busy.set(true);
    this.refusal.set("");
    this.api.call("takeOutCorrection", { params: { id }, body: { reason: "" } }).subscribe({
      next: (all) => {
        this.busy.set(false);
        this.loaded.value.set(all);
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        saidIn(this.refusal)(failure);
      },
    });
  }
}
