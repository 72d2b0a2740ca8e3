import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  viewChild,
  type Signal,
} from "@angular/core";
import { parseDecimal } from "@iron/contract";
import { fromShown, toShown, unitOf, type QuantityKind } from "@iron/core";
import { InputText } from "primeng/inputtext";
import { Preferences } from "../data/preferences";

let made = 0;
const nextId = (): string => `field-${(made += 1)}`;

/** A line or some lines of text under their label. */
@Component({
  selector: "ip-text-field",
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <label [for]="id">{{ label() }}</label>
    @if (lines()) {
      <textarea
        class="p-inputtext"
        [id]="id"
        [value]="value()"
        [attr.maxlength]="most()"
        (change)="typed.emit($any($event.target).value)"
      ></textarea>
    } @else {
      <input
        pInputText
        autocomplete="off"
        [id]="id"
        [value]="value()"
        [attr.maxlength]="most()"
        [attr.list]="list() || null"
        (input)="typed.emit($any($event.target).value)"
      />
    }
  `,
})
export class TextField {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  /** Characters at most. */
  readonly most = input<number | null>(null);
  /** Room for several lines, told when the field is left. */
  readonly lines = input(false);
  /** Id of a datalist with what is usual. */
  readonly list = input("");
  readonly typed = output<string>();
  protected readonly id = nextId();
}

/**
 * A number under its label. It says beside itself what cannot be read or lies outside its bounds,
 * and keeps what was typed; {@link wrong} stays until that is mended, so that a form can wait for it.
 * Of a quantity it takes and tells the core’s unit, and shows the reader’s.
 */
@Component({
  selector: "ip-number-field",
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <label [for]="id">{{ label() }}{{ unit() ? ", " + unit() : "" }}</label>
    <input
      #field
      pInputText
      inputmode="decimal"
      autocomplete="off"
      [id]="id"
      [value]="text()"
      [attr.placeholder]="placeholder() || null"
      [attr.aria-invalid]="wrong() ? true : null"
      [attr.aria-describedby]="wrong() ? id + '-wrong' : null"
      (change)="take($any($event.target).value)"
    />
    @if (wrong()) {
      <span class="wrong" role="alert" [id]="id + '-wrong'">{{ wrong() }}</span>
    }
  `,
})
export class NumberField {
  readonly label = input.required<string>();
  readonly value = input.required<number | null>();
  readonly least = input<number>(-Infinity);
  readonly most = input<number>(Infinity);
  /** May be left empty, which reads as null. */
  readonly none = input(false);
  /** What is measured; a plain number without one. */
  readonly quantity = input<QuantityKind>("number");
  readonly placeholder = input("");
  readonly read = output<number | null>();
  private readonly preferences = inject(Preferences);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>("field");
  protected readonly id = nextId();
  protected readonly unit = computed(() => unitOf(this.quantity(), this.preferences.system()));
  private readonly shown = computed(() => this.show(this.value()));
  protected readonly text = linkedSignal(() => this.shown());
  /** Why what stands in the field cannot be; empty when it can. */
  readonly wrong = linkedSignal<string, string>({ source: this.shown, computation: () => "" });
  private readonly bounds = computed(() => {
    const [least, most] = [this.least(), this.most()].map((b) => (Number.isFinite(b) ? Number(this.show(b)) : b));
    if (Number.isFinite(least) && Number.isFinite(most)) return `from ${least} to ${most}`;
    return Number.isFinite(least) ? `${least} or more` : `${most} or less`;
  });

  /** Back to the value, whatever was typed. */
  reset(): void {
    this.text.set(this.shown());
    this.wrong.set("");
  }

  focus(): void {
    this.field().nativeElement.focus();
  }

  private show(value: number | null): string {
    if (value === null) return "";
    return String(Number(toShown(this.quantity(), value, this.preferences.system()).toPrecision(7)));
  }

  protected take(text: string): void {
    this.text.set(text);
    const typed = text.trim();
    if (typed === "" && this.none()) {
      this.wrong.set("");
      this.read.emit(null);
      return;
    }
    const shown = parseDecimal(typed);
    const value = shown === undefined ? undefined : fromShown(this.quantity(), shown, this.preferences.system());
    if (value === undefined) this.wrong.set(typed ? `“${typed}” is not a number.` : "A number is wanted here.");
    else if (value < this.least() || value > this.most())
      this.wrong.set(`“${typed}” cannot be: it must be ${this.bounds()}${this.unit() ? ` ${this.unit()}` : ""}.`);
    else {
      this.wrong.set("");
      this.read.emit(value);
    }
  }
}

export interface Choice {
  readonly id: string;
  readonly words: string;
}

/** One of several, under its label. */
@Component({
  selector: "ip-choice-field",
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <label [for]="id">{{ label() }}</label>
    <select class="p-inputtext" [id]="id" (change)="chosen.emit($any($event.target).value)">
      @if (none()) {
        <option value="" [selected]="value() === ''">{{ none() }}</option>
      }
      @for (one of choices(); track one.id) {
        <option [value]="one.id" [selected]="one.id === value()">
          {{ one.words }}
        </option>
      }
    </select>
  `,
})
export class ChoiceField {
  readonly label = input.required<string>();
  readonly value = input.required<string>();
  readonly choices = input.required<readonly Choice[]>();
  /** Words for choosing nothing; without them something is chosen. */
  readonly none = input("");
  readonly chosen = output<string>();
  protected readonly id = nextId();
}

/** Words as choices of themselves. */
export const choicesOf = (words: readonly string[]): readonly Choice[] => words.map((w) => ({ id: w, words: w }));

/** Does a number of this form still wait to be mended? Then nothing goes out, and one is led to it. */
export function anyWrong(numbers: Signal<readonly NumberField[]>): boolean {
  const wrong = numbers().find((n) => n.wrong() !== "");
  wrong?.focus();
  return wrong !== undefined;
}
