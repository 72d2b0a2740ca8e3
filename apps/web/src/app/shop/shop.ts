import { ChangeDetectionStrategy, Component, inject, signal } from "@angular/core";
import type { IndicatorRecord } from "@iron/contract";
import { formatSize } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Notices } from "../data/notices";
import { Trouble } from "../shared/trouble";
import { BackupLine } from "./backup-line";
import { IndicatorForm } from "./indicator-form";
import { ShopForm } from "./shop-form";
import { May } from "../shared/may";

/** The shop’s own: its name, currency, people and indicators. */
@Component({
  selector: "ip-shop",
  imports: [May, BackupLine, ButtonDirective, IndicatorForm, ShopForm, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>The shop</h1>
      <ip-shop-form />
      <h2>Indicators</h2>
      @if (indicators.message()) {
        <ip-trouble [message]="indicators.message()" (again)="indicators.again()" />
      }
      <div class="scroll-x" tabindex="0" role="region" aria-label="Indicators">
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">Name</th>
              <th scope="col" class="words">What it is</th>
              <th scope="col"><span class="sr-only">Actions</span></th>
            </tr>
          </thead>
          <tbody>
            @for (one of indicators.value(); track one.id) {
              <tr>
                <td>{{ one.name }}{{ one.retiredAt ? ", retired" : "" }}</td>
                <td class="words">{{ textOf(one) }}</td>
                <td>
                  <button
                    *ipMay="'updateIndicator'"
                    type="button"
                    pButton
                    text
                    (click)="change(one)"
                    [attr.aria-label]="'Change ' + one.name"
                  >
                    Change
                  </button>
                  <button
                    *ipMay="'retireIndicator'"
                    type="button"
                    pButton
                    text
                    (click)="retire(one)"
                    [attr.aria-label]="(one.retiredAt ? 'Put back ' : 'Retire ') + one.name"
                  >
                    {{ one.retiredAt ? "Put back" : "Retire" }}
                  </button>
                </td>
              </tr>
            } @empty {
              <tr>
                <td colspan="3">
                  {{
                    indicators.value()
                      ? "No indicator yet. Add the one you measure with: its resolution decides what can be seen."
                      : "Loading…"
                  }}
                </td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      @if (editing() !== undefined) {
        <ip-indicator-form [start]="editing() ?? null" (kept)="close()" (left)="editing.set(undefined)" />
      } @else {
        <div class="acts">
          <button *ipMay="'createIndicator'" type="button" pButton severity="secondary" (click)="editing.set(null)">
            Add an indicator
          </button>
        </div>
      }
      <ip-backup-line />
    </main>
  `,
})
export class ShopPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly indicators = Loaded.now(() => this.api.call("indicators"));
  /** The one that is changed, null for a new one, undefined while none is. */
  protected readonly editing = signal<IndicatorRecord | null | undefined>(undefined);

  protected textOf(i: IndicatorRecord): string {
    const system = i.unit === "in" ? "inch" : "metric";
    const tip = i.tipAngleDeg > 0 ? `, tip at ${i.tipAngleDeg}°` : "";
    const own =
      i.hysteresisMm || i.calibrationMm
        ? `, errs by ${formatSize(i.hysteresisMm ?? 0, system)} turning round and ${formatSize(i.calibrationMm ?? 0, system)} over a short reach`
        : ", its own errors not noted";
    return `${i.kind}, steps of ${formatSize(i.resolutionMm, system)}, reach ${formatSize(i.rangeMm, system)}${tip}${own}`;
  }

  protected change(one: IndicatorRecord): void {
    this.editing.set(one);
  }

  protected close(): void {
    this.editing.set(undefined);
    this.indicators.again();
  }

  protected retire(i: IndicatorRecord): void {
    const retiring = i.retiredAt === null;
    const request = retiring
      ? this.api.call("retireIndicator", { params: { id: i.id } })
      : this.api.call("reviveIndicator", { params: { id: i.id } });
    request.subscribe({
      next: (now) => {
        this.indicators.again();
        if (retiring) this.notices.say(`${i.name} is retired.`, () => this.retire(now));
      },
      error: this.notices.error,
    });
  }
}
