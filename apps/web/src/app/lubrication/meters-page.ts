import { ChangeDetectionStrategy, Component, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { decimalsFor, formatNumber } from "@iron/core";
import { type MachineMeter } from "@iron/contract";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Loaded } from "../data/loaded";
import { dayText } from "../shared/times.text";
import { MeterReading } from "./meter-reading";
import { CsvImport } from "./csv-import";
import { RoundsNav } from "./rounds-nav";
import { Trouble } from "../shared/trouble";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";

/** Hour meters: what they said, and the hours a day that follow. */
@Component({
  selector: "ip-meters",
  imports: [May, LoadingLines, MeterReading, ButtonDirective, RoundsNav, CsvImport, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <ip-rounds-nav />
    <main class="sheet">
      <h1>Hour meters</h1>
      @if (loaded.message()) {
        <ip-trouble [message]="loaded.message()" (again)="loaded.again()" />
      } @else if (meters(); as all) {
        @for (meter of all; track meter.machineId) {
          <section class="meter" [attr.aria-label]="meter.nickname">
            <h2>
              {{ meter.nickname }}
              <span class="quiet">bay {{ meter.bay }}</span>
            </h2>
            <p>
              {{ usage(meter) }} hours a day, from
              {{ meter.from === "meter" ? "its meter" : "its working week: read the meter twice" }}.
            </p>
            @for (note of meter.notes; track note) {
              <p class="warn">{{ note }}</p>
            }
            <ip-meter-reading
              *ipMay="'addMeter'"
              [meter]="meter"
              [simulated]="simulated()"
              (kept)="meters.set($event)"
            />
            <p class="quiet">
              @for (reading of meter.readings; track reading.id; let first = $first) {
                {{ day(reading.date) }}: {{ reading.hours }} h{{ reading.reset ? " (after a reset)" : ""
                }}{{ $last ? "." : ", " }}
                @if (first) {
                  <button
                    *ipMay="'takeMeterBack'"
                    type="button"
                    pButton
                    text
                    (click)="back(reading.id)"
                    [attr.aria-label]="'Take back the last reading of ' + meter.nickname"
                  >
                    take back
                  </button>
                }
              } @empty {
                No reading yet.
              }
            </p>
          </section>
        } @empty {
          <p>There is no machine yet.</p>
        }
        <h2>From a file</h2>
        <ip-csv-import
          *ipMay="'importMeters'"
          what="meters"
          label="Meter readings, a CSV file"
          columns="machine, date, hours, reset"
          (kept)="loaded.again()"
        />
      } @else {
        <ip-loading>Loading the meters…</ip-loading>
      }
    </main>
  `,
})
export class MetersPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly simulated = signal(false);
  protected readonly loaded = Loaded.now(() => this.api.call("meters"));
  protected readonly meters = this.loaded.value;
  /** Both to two digits of U, so that ± is never zero. */
  protected usage({ hoursPerDay, expanded }: MachineMeter): string {
    const decimals = decimalsFor(expanded);
    return `${formatNumber(hoursPerDay, decimals)} ± ${formatNumber(expanded, decimals)}`;
  }
  protected readonly day = (date: string): string => dayText(`${date}T12:00:00`);

  constructor() {
    this.api.call("shop").subscribe({
      next: (shop) => this.simulated.set(shop.demo),
      error: () => undefined,
    });
  }

  protected back(id: number): void {
    this.api.call("takeMeterBack", { params: { id } }).subscribe({
      next: (list) => this.meters.set(list),
      error: this.notices.error,
    });
  }
}
