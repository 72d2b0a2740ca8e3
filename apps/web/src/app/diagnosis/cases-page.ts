import { ChangeDetectionStrategy, Component, computed, inject } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { momentText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { TableModule } from "primeng/table";
import { RowOf } from "../shared/row-of";
import { RowsPipe } from "../shared/rows.pipe";
import { LoadingLines } from "../shared/loading";

/** All cases of the shop: open ones first. */
@Component({
  selector: "ip-cases",
  imports: [LoadingLines, RowOf, RowsPipe, TableModule, ButtonDirective, RouterLink, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>
        {{ heading() }}
      </h1>
      @if (loaded.message()) {
        <ip-trouble [message]="loaded.message()" (again)="loaded.again()" />
      } @else if (cases(); as list) {
        @if (list.length === 0) {
          <p>A case begins at station Ask of an axis: pick a machine on the floor, then its axis.</p>
          <a pButton routerLink="/floor">Go to the floor</a>
        } @else {
          <div class="scroll-x" tabindex="0" role="region" aria-label="Cases">
            <p-table tableStyleClass="rows" dataKey="id" [value]="list | rows"
              ><ng-template #header>
                <tr>
                  <th scope="col" pSortableColumn="id">Case <p-sortIcon field="id" /></th>
                  <th scope="col" pSortableColumn="nickname">Axis <p-sortIcon field="nickname" /></th>
                  <th scope="col" class="words" pSortableColumn="says">Noticed <p-sortIcon field="says" /></th>
                  <th scope="col" pSortableColumn="openedAt">Opened <p-sortIcon field="openedAt" /></th>
                  <th scope="col" class="words">State</th>
                  <th scope="col"><span class="sr-only">Open it</span></th>
                </tr> </ng-template
              ><ng-template #body let-one [ipRowOf]="list">
                <tr>
                  <td>{{ one.id }}</td>
                  <td>{{ one.nickname }} {{ one.letters }}</td>
                  <td class="words">{{ one.says }}</td>
                  <td>{{ moment(one.openedAt) }}, {{ one.by }}</td>
                  <td class="words">
                    {{ one.state === "open" ? "open" : "found: " + one.found }}
                  </td>
                  <td>
                    <a
                      pButton
                      severity="secondary"
                      [routerLink]="
                        one.state === 'open'
                          ? ['/machines', one.machineId, 'axes', one.axisIds[0], 'locate']
                          : ['/cases', one.id]
                      "
                      [attr.aria-label]="(one.state === 'open' ? 'Go on with' : 'Read') + ' case ' + one.id"
                      >{{ one.state === "open" ? "Go on" : "Read" }}</a
                    >
                  </td>
                </tr>
              </ng-template></p-table
            >
          </div>
        }
      } @else {
        <ip-loading>Loading the cases…</ip-loading>
      }
    </main>
  `,
})
export class CasesPage {
  private readonly api = inject(Api);
  protected readonly loaded = Loaded.now(() => this.api.call("cases")).alive();
  protected readonly cases = computed(
    () =>
      this.loaded.value()?.toSorted((a, b) => Number(a.state !== "open") - Number(b.state !== "open") || b.id - a.id) ??
      null,
  );
  protected readonly moment = momentText;
  protected readonly heading = computed(() => {
    const list = this.cases();
    if (!list) return "Cases";
    const open = list.filter((c) => c.state === "open").length;
    if (list.length === 0) return "No case yet";
    return open === 0 ? "No case is open" : `${open} open ${open === 1 ? "case" : "cases"}`;
  });
}
