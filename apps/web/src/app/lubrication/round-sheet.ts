import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { LubricationPointRecord, Rounds } from "@iron/contract";
import { Api } from "../data/api";
import { saidIn } from "../data/problems";
import { dayText } from "../shared/times.text";
import { bringText, foundKeys, visitOf } from "./rounds.view";
import { LoadingLines } from "../shared/loading";

/** One day’s round on paper, with boxes. */
@Component({
  selector: "ip-round-sheet",
  imports: [LoadingLines, ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./paper.css",
  template: `
    <main class="sheet paper">
      <div class="acts no-print">
        <a pButton severity="secondary" routerLink="/rounds">Back to the rounds</a>
        <button type="button" pButton (click)="print()">Print</button>
      </div>
      @if (error()) {
        <div class="bad" role="alert">
          <p>{{ error() }}</p>
        </div>
      } @else if (day(); as day) {
        <h1>Round of {{ dayLine() }}</h1>
        <p>
          {{ count() }} {{ count() === 1 ? "point" : "points" }}, about {{ day.minutes }} minutes. Walked by
          <span class="line"></span> on
          <span class="line"></span>
        </p>
        <p><b>Bring:</b> {{ bring() }}.</p>
        @for (stop of day.stops; track stop.machineId) {
          <section class="stop">
            <h2>Bay {{ stop.bay }} · {{ stop.nickname }}</h2>
            @for (point of stop.points; track point.id) {
              <div class="row">
                <div>
                  <p>
                    <b>{{ point.place }}</b>: {{ point.qualified ? "Only for people trained for it. " : ""
                    }}{{ visit(point).state }}.
                    {{ visit(point).steps.join(" ") }}
                  </p>
                  @for (check of point.answered; track check.name) {
                    <p class="quiet">
                      {{ check.name }}: <span class="box"></span> fine <span class="box"></span> watch
                      <span class="box"></span> act{{ check.wrong ? ", " + check.wrong : "" }}
                      @if (check.unit) {
                        <span class="line short-line"></span> {{ check.unit }}
                      }
                    </p>
                  }
                  @if (point.outlets.length) {
                    <p class="quiet">
                      {{
                        point.way === "central line"
                          ? "Outlets, farthest first; wet or dry:"
                          : "Not alike? What each was like:"
                      }}
                      @for (name of inLookingOrder(point); track name) {
                        {{ name }} <span class="line short-line"></span>
                      }
                    </p>
                  }
                </div>
                <div class="boxes">
                  @for (key of keys(point); track key.state) {
                    <span><span class="box"></span> {{ key.label }}</span>
                  }
                  <span>given <span class="line short-line"></span></span>
                </div>
              </div>
            }
          </section>
        } @empty {
          <p>Nothing is planned on this day.</p>
        }
        <p class="quiet">
          Off and locked before reaching in. What can fall is parked low or blocked before anybody reaches under it.
          Hands and cloth out while anything moves. What the maker states, never mixed.
        </p>
      } @else if (loaded()) {
        <p>
          The plan has no such day: it runs two weeks from today.
          <a routerLink="/rounds">Rounds</a>
        </p>
      } @else {
        <ip-loading>Loading the round…</ip-loading>
      }
    </main>
  `,
})
export class RoundSheet {
  readonly date = input.required<string>();
  private readonly api = inject(Api);
  protected readonly keys = foundKeys;
  protected readonly visit = visitOf;
  protected readonly inLookingOrder = ({ way, outlets }: LubricationPointRecord): readonly string[] =>
    way === "central line" ? [...outlets].reverse() : outlets;
  protected readonly error = signal("");
  private readonly rounds = signal<Rounds | null>(null);
  protected readonly loaded = computed(() => this.rounds() !== null);
  protected readonly day = computed(() => this.rounds()?.days.find((d) => d.date === this.date()) ?? null);
  protected readonly dayLine = computed(() => dayText(`${this.date()}T12:00:00`));
  protected readonly count = computed(() => (this.day()?.stops ?? []).reduce((n, s) => n + s.points.length, 0));
  protected readonly bring = computed(() => bringText((this.day()?.stops ?? []).flatMap((s) => s.points)));

  constructor() {
    this.api.call("rounds").subscribe({
      next: (rounds) => this.rounds.set(rounds),
      error: saidIn(this.error),
    });
  }

  protected print(): void {
    window.print();
  }
}
