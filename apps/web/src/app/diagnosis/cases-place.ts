import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { CaseSummary } from "@iron/contract";
import { Api } from "../data/api";
import { problemFrom } from "../data/problems";
import { momentWords } from "../shared/words";
import { Trouble } from "../shared/trouble";

/** All cases of the shop: open ones first. */
@Component({
  selector: "ip-cases",
  imports: [ButtonDirective, RouterLink, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>
        {{ heading() }}
      </h1>
      @if (wrong()) {
        <ip-trouble [words]="wrong()" (again)="load()" />
      } @else if (cases(); as list) {
        @if (list.length === 0) {
          <p>A case begins at station Ask of an axis: pick a machine on the floor, then its axis.</p>
          <a pButton routerLink="/floor">Go to the floor</a>
        } @else {
          <div class="scroll-x" tabindex="0" role="region" aria-label="Cases">
            <table class="rows">
              <thead>
                <tr>
                  <th scope="col">Case</th>
                  <th scope="col">Axis</th>
                  <th scope="col" class="words">Noticed</th>
                  <th scope="col">Opened</th>
                  <th scope="col" class="words">State</th>
                  <th scope="col"><span class="sr-only">Open it</span></th>
                </tr>
              </thead>
              <tbody>
                @for (one of list; track one.id) {
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
                }
              </tbody>
            </table>
          </div>
        }
      } @else {
        <p class="quiet" aria-busy="true">Loading the cases…</p>
      }
    </main>
  `,
})
export class CasesPlace {
  private readonly api = inject(Api);
  protected readonly cases = signal<readonly CaseSummary[] | null>(null);
  protected readonly wrong = signal("");
  protected readonly moment = momentWords;
  protected readonly heading = computed(() => {
    const list = this.cases();
    if (!list) return "Cases";
    const open = list.filter((c) => c.state === "open").length;
    if (list.length === 0) return "No case yet";
    return open === 0 ? "No case is open" : `${open} open ${open === 1 ? "case" : "cases"}`;
  });

  constructor() {
    this.load();
  }

  protected load(): void {
    this.wrong.set("");
    this.api.call("cases").subscribe({
      next: (list) =>
        this.cases.set(
          [...list].sort((a, b) => Number(a.state !== "open") - Number(b.state !== "open") || b.id - a.id),
        ),
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }
}
