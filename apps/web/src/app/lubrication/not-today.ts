import { DayField } from "../shared/day-field";
import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import type { LubricationPointRecord } from "@iron/contract";
import { ChoiceField, TextField } from "../shared/fields";

/** A move by hand: onto a day, left out till one, or let go again. */
export interface HandMove {
  readonly kind: "pin" | "skip" | "free";
  readonly date: string | null;
  readonly reason: string;
}

/** Putting a visit on another day, or leaving it out with a reason. */
@Component({
  selector: "ip-not-today",
  imports: [ButtonDirective, DayField, ChoiceField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <details>
      <summary>Not today</summary>
      <div class="fields">
        <div>
          <ip-choice-field
            label="Put it on another day"
            none="choose a day"
            [choices]="days()"
            [value]="moveTo()"
            (chosen)="moveTo.set($event)"
          />
          <button type="button" pButton severity="secondary" [disabled]="busy()" (click)="move('pin', moveTo())">
            Put it there
          </button>
        </div>
        <div>
          <ip-day-field label="Leave it out till" [value]="skipTill()" (picked)="skipTill.set($event)" />
          <ip-text-field label="Why" [most]="200" [value]="reason()" (typed)="reason.set($event)" />
          <button type="button" pButton severity="secondary" [disabled]="busy()" (click)="move('skip', skipTill())">
            Leave it out
          </button>
        </div>
      </div>
      @if (point().hold) {
        <button type="button" pButton severity="secondary" [disabled]="busy()" (click)="move('free', null)">
          Let the plan choose the day again
        </button>
      }
    </details>
    @if (error() || refused()) {
      <p class="wrong" role="alert">{{ error() || refused() }}</p>
    }
  `,
})
export class NotToday {
  readonly point = input.required<LubricationPointRecord>();
  /** Days somebody is there. */
  readonly days = input.required<readonly { readonly id: string; readonly label: string }[]>();
  readonly busy = input(false);
  /** What the server would not have, in its words. */
  readonly refused = input("");
  readonly moved = output<HandMove>();
  private readonly pointId = computed(() => this.point().id);
  protected readonly moveTo = linkedSignal<number, string>({ source: this.pointId, computation: () => "" });
  protected readonly reason = linkedSignal<number, string>({ source: this.pointId, computation: () => "" });
  protected readonly skipTill = signal("");
  protected readonly error = linkedSignal<number, string>({ source: this.pointId, computation: () => "" });

  protected move(kind: HandMove["kind"], date: string | null): void {
    this.error.set(
      date !== "" ? "" : kind === "pin" ? "Choose the day first." : "Name the day till which it is left out.",
    );
    if (this.error()) return;
    this.moved.emit({ kind, date, reason: kind === "skip" ? this.reason() : "" });
  }
}
