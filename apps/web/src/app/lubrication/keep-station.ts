import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  untracked,
} from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { giveText, chainOf } from "@iron/core";
import type { LubricationPointRecord } from "@iron/contract";
import { Api } from "../data/api";
import { saidIn } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { chainMarks, dueText } from "./rounds.view";
import { Trouble } from "../shared/trouble";
import { TableModule } from "primeng/table";
import { RowOf } from "../shared/row-of";
import { RowsPipe } from "../shared/rows.pipe";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";

/** Station Keep: the lubrication points of this axis and of the machine around it. */
@Component({
  selector: "ip-keep",
  imports: [May, LoadingLines, RowOf, RowsPipe, TableModule, ButtonDirective, RouterLink, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>{{ heading() }}</h1>
      @if (error()) {
        <ip-trouble [message]="error()" (again)="load()" />
      } @else if (points(); as all) {
        <div class="acts">
          <a
            *ipMay="'usualPoints'"
            pButton
            [severity]="all.length === 0 ? null : 'secondary'"
            [routerLink]="['/machines', context.machine()?.id, 'points']"
            >Add the usual points of this machine</a
          >
          <a
            *ipMay="'createPoint'"
            pButton
            severity="secondary"
            routerLink="/points/new"
            [queryParams]="{ machine: context.machine()?.id }"
            >Add a point</a
          >
          <a pButton severity="secondary" routerLink="/rounds">Rounds</a>
        </div>
        @if (all.length) {
          <div class="scroll-x" tabindex="0" role="region" aria-label="Lubrication points">
            <p-table tableStyleClass="rows" dataKey="id" [value]="all | rows"
              ><ng-template #header>
                <tr>
                  <th scope="col" pSortableColumn="place">Point <p-sortIcon field="place" /></th>
                  <th scope="col" class="words">Give</th>
                  <th scope="col" class="words" pSortableColumn="dueOn">When <p-sortIcon field="dueOn" /></th>
                  <th scope="col" class="words">Last found</th>
                </tr> </ng-template
              ><ng-template #body let-point [ipRowOf]="all">
                <tr>
                  <td>
                    <a [routerLink]="['/points', point.id]">{{ point.place }}</a>
                    @if (point.link) {
                      <br /><span class="quiet">{{ point.link }}</span>
                    }
                  </td>
                  <td class="words">{{ dose(point) }}</td>
                  <td class="words">{{ due(point) }}</td>
                  <td class="words">
                    {{ point.lastFound ?? "not visited yet" }}
                    @if (point.asksCase) {
                      <br /><a [routerLink]="context.base() + '/ask'">{{ point.asksCase }} Open a case</a>
                    }
                  </td>
                </tr>
              </ng-template></p-table
            >
          </div>
        } @else {
          <p>
            No point is kept for this machine yet. The usual ones come from its axes: carriages or ways, nut or rack,
            end bearings, and the machine’s own.
          </p>
        }
      } @else {
        <ip-loading>Loading the points…</ip-loading>
      }
    </main>
  `,
})
export class KeepStation {
  protected readonly context = inject(AxisContext);
  private readonly api = inject(Api);
  protected readonly dose = giveText;
  protected readonly due = dueText;
  private readonly list = signal<readonly LubricationPointRecord[] | null>(null);
  protected readonly error = signal("");
  private readonly chain = computed(() => {
    const config = this.context.axis()?.config;
    return config ? chainOf(config).map((l) => l.id as string) : [];
  });
  /** This axis’ points in the order of its chain, then the machine’s own. */
  protected readonly points = computed(() => {
    const letter = this.context.axis()?.config.letter;
    const chain = this.chain();
    const at = (p: LubricationPointRecord): number => (p.letter === null ? 99 : chain.indexOf(p.link ?? "way"));
    return (
      this.list()
        ?.filter((p) => !p.retired && (p.letter === letter || p.letter === null))
        .sort((a, b) => at(a) - at(b)) ?? null
    );
  });
  protected readonly heading = computed(() => {
    const late = (this.points() ?? []).filter((p) => p.lateDays >= 1).length;
    if (!this.points()) return "Keep";
    if (!this.points()?.length) return "Nothing is kept here yet";
    return late ? `${late} ${late === 1 ? "point is" : "points are"} late` : "Nothing is late here";
  });

  constructor() {
    const { marks } = this.context;
    effect(() => marks.set(chainMarks(this.points() ?? [])));
    inject(DestroyRef).onDestroy(() => marks.set({}));
    effect(() => {
      if (this.context.axis()) untracked(() => this.load());
    });
  }

  protected load(): void {
    const id = this.context.machine()?.id;
    if (id === undefined) return;
    this.error.set("");
    this.api.call("lubricationPoints", { params: { id } }).subscribe({
      next: (list) => this.list.set(list),
      error: saidIn(this.error),
    });
  }
}
