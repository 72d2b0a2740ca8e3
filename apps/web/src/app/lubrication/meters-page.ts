import { ChangeDetectionStrategy, Component, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { dayOf, decimalsFor, formatNumber } from "@iron/core";
import { parseDecimal, type MachineMeter } from "@iron/contract";
import type { Observable } from "rxjs";
import { newKey } from "../data/new-key";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { problemFrom } from "../data/problems";
import { dayWords } from "../shared/words";
import { CsvImport } from "./csv-import";
import { RoundsNav } from "./rounds-nav";
import { Trouble } from "../shared/trouble";

/** Hour meters: what they said, and the hours a day that follow. */
@Component({
  selector: "ip-meters",
  imports: [ButtonDirective, RoundsNav, CsvImport, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <ip-rounds-nav />
    <main class="sheet">
      <h1>Hour meters</h1>
      @if (wrong()) {
        <ip-trouble [words]="wrong()" (again)="load()" />
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
            <form
              class="acts"
              (submit)="$event.preventDefault(); add(meter, $any($event.target))"
              novalidate
              [attr.aria-label]="'Reading of ' + meter.nickname"
            >
              <div class="field">
                <label [for]="'h-' + meter.machineId">Hours now</label>
                <input
                  class="p-inputtext short"
                  name="hours"
                  inputmode="decimal"
                  autocomplete="off"
                  [id]="'h-' + meter.machineId"
                />
              </div>
              <label class="tick-box"><input type="checkbox" name="replaced" />replaced or set back before</label>
              <button type="submit" pButton severity="secondary">Keep the reading</button>
              @if (simulated()) {
                <button type="button" pButton severity="secondary" (click)="read(meter)">
                  Read the simulated machine
                </button>
              }
            </form>
            @if (errors()[meter.machineId]) {
              <p class="wrong" role="alert">{{ errors()[meter.machineId] }}</p>
            }
            <p class="quiet">
              @for (reading of meter.readings; track reading.id; let first = $first) {
                {{ day(reading.date) }}: {{ reading.hours }} h{{ reading.reset ? " (after a reset)" : ""
                }}{{ $last ? "." : ", " }}
                @if (first) {
                  <button
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
          what="meters"
          label="Meter readings, a CSV file"
          columns="machine, date, hours, reset"
          (kept)="load()"
        />
      } @else {
        <p class="quiet" aria-busy="true">Loading the meters…</p>
      }
    </main>
  `,
})
export class MetersPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly meters = signal<readonly MachineMeter[] | null>(null);
  protected readonly simulated = signal(false);
  protected readonly wrong = signal("");
  protected readonly errors = signal<Readonly<Record<number, string>>>({});
  /** Both to two digits of U, so that ± is never zero. */
  protected usage({ hoursPerDay, expanded }: MachineMeter): string {
    const decimals = decimalsFor(expanded);
    return `${formatNumber(hoursPerDay, decimals)} ± ${formatNumber(expanded, decimals)}`;
  }
  protected readonly day = (date: string): string => dayWords(`${date}T12:00:00`);

  constructor() {
    this.load();
    this.api.call("shop").subscribe({
      next: (shop) => this.simulated.set(shop.demo),
      error: () => undefined,
    });
  }

  protected load(): void {
    this.wrong.set("");
    this.api.call("meters").subscribe({
      next: (list) => this.meters.set(list),
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }

  protected add(meter: MachineMeter, form: HTMLFormElement): void {
    const field = form.elements.namedItem("hours") as HTMLInputElement;
    const reset = (form.elements.namedItem("replaced") as HTMLInputElement).checked;
    const hours = parseDecimal(field.value);
    if (hours === undefined) {
      this.say(meter.machineId, `“${field.value.trim()}” is not a number of hours.`);
      return;
    }
    const body = { key: newKey(), date: dayOf(new Date()), hours, reset };
    this.follow(meter.machineId, this.api.call("addMeter", { params: { id: meter.machineId }, body }), () =>
      form.reset(),
    );
  }

  protected read(meter: MachineMeter): void {
    this.follow(meter.machineId, this.api.call("readMeter", { params: { id: meter.machineId } }));
  }

  protected back(id: number): void {
    this.api.call("takeMeterBack", { params: { id } }).subscribe({
      next: (list) => this.meters.set(list),
      error: (error: unknown) => this.notices.wrong(error),
    });
  }

  private follow(
    machineId: number,
    answer: Observable<readonly MachineMeter[]>,
    done: () => void = () => undefined,
  ): void {
    answer.subscribe({
      next: (list) => {
        this.say(machineId, "");
        this.meters.set(list);
        done();
      },
      error: (error: unknown) => this.say(machineId, problemFrom(error).detail),
    });
  }

  private say(machineId: number, words: string): void {
    this.errors.update((all) => ({ ...all, [machineId]: words }));
  }
}
