import { ChangeDetectionStrategy, Component, computed, input, output } from "@angular/core";
import { FormsModule } from "@angular/forms";
import { DatePicker } from "primeng/datepicker";

let made = 0;

/**
 * A day under its label, typed or picked: year, month, day, which is read the same in every country.
 * It takes and tells “2026-11-26”, or nothing.
 */
@Component({
  selector: "ip-day-field",
  imports: [DatePicker, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <label [for]="id">{{ label() }}</label>
    <p-datepicker
      appendTo="body"
      dateFormat="yy-mm-dd"
      placeholder="year-month-day"
      showIcon
      iconDisplay="button"
      iconAriaLabel="Pick a day"
      [firstDayOfWeek]="1"
      [inputId]="id"
      [minDate]="from()"
      [maxDate]="till()"
      [ngModel]="day()"
      (ngModelChange)="picked.emit(isoOf($event))"
    />
  `,
})
export class DayField {
  readonly label = input.required<string>();
  /** “2026-11-26”, or empty. */
  readonly value = input.required<string>();
  readonly least = input("");
  readonly most = input("");
  readonly picked = output<string>();
  protected readonly id = `day-${(made += 1)}`;
  // The same day stays the same object: another would be written into the field while one types.
  protected readonly day = computed(() => dateOf(this.value()));
  protected readonly from = computed(() => dateOf(this.least()));
  protected readonly till = computed(() => dateOf(this.most()));
  protected readonly isoOf = isoOf;
}

/** Midnight of the shop’s own clock: a day is no instant. */
function dateOf(day: string): Date | null {
  const [year, month, date] = day.split("-").map(Number);
  return day && date ? new Date(year, month - 1, date) : null;
}

function isoOf(date: Date | null): string {
  if (!(date instanceof Date) || Number.isNaN(date.getTime())) return "";
  const two = (n: number): string => String(n).padStart(2, "0");
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}
