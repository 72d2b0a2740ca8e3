import { ChangeDetectionStrategy, Component, input, output, signal } from "@angular/core";
import type { LubricationSettings } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { DayField } from "../shared/day-field";
import { TextField } from "../shared/fields";

type Holidays = LubricationSettings["holidays"];

/** Days on which nobody walks. */
@Component({
  selector: "ip-holiday-list",
  imports: [ButtonDirective, DayField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <h2>Holidays</h2>
    <ul class="walked">
      @for (one of holidays(); track one.date) {
        <li>
          {{ one.date }} {{ one.words }}
          <button type="button" pButton text (click)="drop(one.date)" [attr.aria-label]="'Strike out ' + one.date">
            strike out
          </button>
        </li>
      } @empty {
        <li>none</li>
      }
    </ul>
    <div class="acts">
      <ip-day-field label="Day" [value]="day()" (picked)="day.set($event)" />
      <ip-text-field label="What it is" [most]="60" [value]="words()" (typed)="words.set($event)" />
      <button type="button" pButton severity="secondary" (click)="add()">Add the holiday</button>
    </div>
    @if (message()) {
      <p class="wrong" role="alert">{{ message() }}</p>
    }
  `,
})
export class HolidayList {
  readonly holidays = input.required<Holidays>();
  readonly changed = output<Holidays>();
  protected readonly day = signal("");
  protected readonly words = signal("");
  protected readonly message = signal("");

  protected add(): void {
    const date = this.day();
    this.message.set(date ? "" : "Name the day of the holiday.");
    if (!date) return;
    const others = this.holidays().filter((h) => h.date !== date);
    this.changed.emit([...others, { date, words: this.words() }].sort((a, b) => a.date.localeCompare(b.date)));
    this.words.set("");
  }

  protected drop(date: string): void {
    this.changed.emit(this.holidays().filter((h) => h.date !== date));
  }
}
