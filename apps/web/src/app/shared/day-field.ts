import { ChangeDetectionStrategy, Component, computed, effect, forwardRef, input, output } from "@angular/core";
import { FormControl, NG_VALUE_ACCESSOR, ReactiveFormsModule, type ControlValueAccessor } from "@angular/forms";
import { DatePicker } from "primeng/datepicker";

let made = 0;

/**
 * A day under its label, typed or picked: year, month, day, which is read the same in every country.
 * It takes and tells “2026-11-26”, or nothing.
 */
@Component({
  selector: "ip-day-field",
  imports: [DatePicker, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  providers: [{ provide: NG_VALUE_ACCESSOR, useExisting: forwardRef(() => DayField), multi: true }],
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
      [formControl]="control"
      (onBlur)="left()"
      (keydown)="keyed = true"
      (input)="filled($any($event.target).value)"
    />
    <span class="said"></span>
  `,
})
export class DayField implements ControlValueAccessor {
  readonly label = input.required<string>();
  /** “2026-11-26”, or empty. */
  readonly value = input<string>();
  readonly least = input("");
  readonly most = input("");
  readonly picked = output<string>();
  protected readonly id = `day-${(made += 1)}`;
  protected readonly from = computed(() => dateOf(this.least()));
  protected readonly till = computed(() => dateOf(this.most()));
  protected readonly control = new FormControl<Date | null>(null);
  protected keyed = false;
  protected left: () => void = () => undefined;
  private told = "";

  constructor() {
    effect(() => {
      const value = this.value();
      if (value !== undefined) this.writeValue(value);
    });
    this.control.valueChanges.subscribe((date) => this.tell(isoOf(date)));
  }

  writeValue(day: string): void {
    // What was just typed or picked here stands there already.
    if (day === this.told) return;
    this.told = day;
    this.control.setValue(dateOf(day), { emitEvent: false });
  }

  registerOnChange(tell: (day: string) => void): void {
    this.picked.subscribe(tell);
  }

  registerOnTouched(left: () => void): void {
    this.left = left;
  }

  /**
   * What came without a key going down (pasted, filled in) is not seen by the picker, which would write its own
   * day back on leaving the field: a day counts, anything else is none. What is typed it reads itself.
   */
  protected filled(text: string): void {
    const byKey = this.keyed;
    this.keyed = false;
    if (byKey) return;
    const day = text.trim();
    const date = /^\d{4}-\d{2}-\d{2}$/.test(day) ? dateOf(day) : null;
    this.control.setValue(date && isoOf(date) === day ? date : null);
  }

  private tell(day: string): void {
    if (day === this.told) return;
    this.told = day;
    this.picked.emit(day);
  }
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
