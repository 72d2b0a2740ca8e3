import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  viewChild,
  type OnInit,
  type Signal,
} from "@angular/core";
import { FormControl, NgControl, ReactiveFormsModule } from "@angular/forms";
import { parseDecimal } from "@iron/contract";
import { fromShown, toShown, unitOf, type QuantityKind } from "@iron/core";
import { InputText } from "primeng/inputtext";
import { Select } from "primeng/select";
import { Textarea } from "primeng/textarea";
import { Preferences } from "../data/preferences";
import { FieldBase } from "./field-base";
import { byRule } from "./schema-form";

/** A bound is said with the value that breaks it. */
function withValue(refused: string, text: string): string {
  const typed = text.trim();
  const named = !refused || !typed || refused.split(/[\s“”]|[:;,.](?=\s|$)/).includes(typed);
  return named ? refused : `“${typed}”: ${refused}`;
}

/** A line or some lines of text under their label. */
@Component({
  selector: "ip-text-field",
  imports: [InputText, Textarea],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <label [for]="id">{{ label() }}</label>
    @if (lines()) {
      <textarea
        pTextarea
        [id]="id"
        [disabled]="off()"
        [value]="held() ?? ''"
        [attr.maxlength]="most()"
        [attr.aria-invalid]="refused() ? true : null"
        [attr.aria-describedby]="id + '-said'"
        (change)="take($any($event.target).value)"
        (blur)="blurred()"
      ></textarea>
    } @else {
      <input
        pInputText
        autocomplete="off"
        [id]="id"
        [disabled]="off()"
        [value]="held() ?? ''"
        [attr.inputmode]="mode() || null"
        [attr.placeholder]="placeholder() || null"
        [attr.maxlength]="most()"
        [attr.list]="list() || null"
        [attr.aria-invalid]="message() ? true : null"
        [attr.aria-describedby]="id + '-said'"
        (input)="take($any($event.target).value)"
        (blur)="blurred()"
      />
    }
    <span class="said" [id]="id + '-said'">
      @if (message(); as message) {
        <span class="wrong" role="alert">{{ message }}</span>
      } @else {
        <span class="hint">{{ hint() }}</span>
      }
    </span>
  `,
})
export class TextField extends FieldBase<string> {
  /** Characters at most. */
  readonly most = input<number | null>(null);
  /** Room for several lines, told when the field is left. */
  readonly lines = input(false, { transform: booleanAttribute });
  /** Id of a datalist with what is usual. */
  readonly list = input("");
  readonly placeholder = input("");
  /** “decimal” brings the keys of a number to a phone. */
  readonly mode = input("");
  readonly typed = output<string>();
  protected readonly message = computed(() =>
    this.mode() ? withValue(this.refused(), this.held() ?? "") : this.refused(),
  );

  protected take(text: string): void {
    this.tell(text);
    this.typed.emit(text);
  }
}

/**
 * The measured value: a number under its label. It says below itself what cannot be read or lies outside its bounds,
 * and keeps what was typed; {@link textError} stays until that is mended, so that a form can wait for it.
 * Of a quantity it takes and tells the core’s unit, and shows the reader’s.
 */
@Component({
  selector: "ip-number-field",
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <label [for]="id" [class.sr-only]="quietly()">{{ label() }}{{ unit() ? ", " + unit() : "" }}</label>
    <input
      #field
      pInputText
      inputmode="decimal"
      autocomplete="off"
      [id]="id"
      [disabled]="off()"
      [value]="text()"
      [attr.placeholder]="placeholder() || null"
      [attr.aria-invalid]="message() ? true : null"
      [attr.aria-describedby]="id + '-said'"
      (change)="take($any($event.target).value)"
      (blur)="blurred()"
    />
    <span class="said" [id]="id + '-said'">
      @if (message()) {
        <span class="wrong" role="alert">{{ message() }}</span>
      } @else {
        <span class="hint">{{ hint() }}</span>
      }
    </span>
  `,
})
export class NumberField extends FieldBase<number | null> implements OnInit {
  readonly least = input<number>(-Infinity);
  readonly most = input<number>(Infinity);
  /** May be left empty, which reads as null. */
  readonly none = input(false, { transform: booleanAttribute });
  /** What is measured; a plain number without one. */
  readonly quantity = input<QuantityKind>("number");
  readonly placeholder = input("");
  /** The label is for those who hear the page: the eye sees by the place what it is. */
  readonly quietly = input(false, { transform: booleanAttribute });
  readonly read = output<number | null>();
  private readonly preferences = inject(Preferences);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>("field");
  private readonly inForm = inject(NgControl, { self: true, optional: true });
  protected readonly unit = computed(() => unitOf(this.quantity(), this.preferences.system()));
  private readonly shown = computed(() => this.show(this.held() ?? null));
  protected readonly text = linkedSignal(() => this.shown());
  /** Why what stands in the field cannot be; empty when it can. */
  readonly textError = linkedSignal<string, string>({ source: this.shown, computation: () => "" });
  protected readonly message = computed(() => this.textError() || withValue(this.refused(), this.text()));
  private readonly bounds = computed(() => {
    const [least, most] = [this.least(), this.most()].map((b) => (Number.isFinite(b) ? Number(this.show(b)) : b));
    if (Number.isFinite(least) && Number.isFinite(most)) return `from ${least} to ${most}`;
    return Number.isFinite(least) ? `${least} or more` : `${most} or less`;
  });

  override ngOnInit(): void {
    super.ngOnInit();
    this.inForm?.control?.addValidators(byRule(() => this.textError()));
  }

  /** Back to the value, whatever was typed. */
  reset(): void {
    this.text.set(this.shown());
    this.textError.set("");
    this.inForm?.control?.updateValueAndValidity();
  }

  focus(): void {
    this.field().nativeElement.focus();
  }

  private show(value: number | null): string {
    if (value === null || Number.isNaN(value)) return "";
    return String(Number(toShown(this.quantity(), value, this.preferences.system()).toPrecision(7)));
  }

  protected take(text: string): void {
    this.text.set(text);
    const typed = text.trim();
    const shown = parseDecimal(typed);
    const value = shown === undefined ? undefined : fromShown(this.quantity(), shown, this.preferences.system());
    if (typed === "" && this.none()) this.accept(null);
    else if (value === undefined) this.refuse(typed ? `“${typed}” is not a number.` : "A number is wanted here.");
    else if (value < this.least() || value > this.most())
      this.refuse(`“${typed}” cannot be: it must be ${this.bounds()}${this.unit() ? ` ${this.unit()}` : ""}.`);
    else this.accept(value);
  }

  private accept(value: number | null): void {
    this.textError.set("");
    // In a form the value is held by its control; elsewhere by whoever gives it.
    if (this.inForm) this.tell(value);
    this.read.emit(value);
  }

  private refuse(message: string): void {
    this.textError.set(message);
    this.inForm?.control?.markAsDirty();
    this.inForm?.control?.updateValueAndValidity();
  }
}

export interface Choice<T = string> {
  readonly id: T;
  readonly label: string;
}

/** One of several, under its label. */
@Component({
  selector: "ip-choice-field",
  imports: [Select, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <span class="called" [id]="id + '-label'" [class.sr-only]="quietly()">{{ label() }}</span>
    <p-select
      appendTo="body"
      optionLabel="label"
      optionValue="id"
      [inputId]="id"
      [ariaLabelledBy]="id + '-label'"
      [options]="options()"
      [formControl]="inner"
      (onBlur)="blurred()"
    />
    <span class="said"
      ><span class="hint">{{ hint() }}</span></span
    >
  `,
})
export class ChoiceField<T = string> extends FieldBase<T> {
  readonly choices = input.required<readonly Choice<T>[]>();
  /** Words for choosing nothing, told as an empty text; without them something is chosen. */
  readonly none = input("");
  /** The label is for those who hear the page: the eye sees by the place what it is. */
  readonly quietly = input(false, { transform: booleanAttribute });
  readonly chosen = output<T>();
  protected readonly options = computed<Choice<T>[]>(() => {
    const none = this.none();
    return [...(none ? [{ id: "" as T, label: none }] : []), ...this.choices()];
  });
  protected readonly inner = new FormControl<T | null>(null);

  constructor() {
    super();
    effect(() => this.inner.setValue(this.held() ?? null, { emitEvent: false }));
    effect(() => (this.off() ? this.inner.disable({ emitEvent: false }) : this.inner.enable({ emitEvent: false })));
    this.inner.valueChanges.subscribe((value) => {
      if (value === null) return;
      this.tell(value);
      this.chosen.emit(value);
    });
  }
}

/** Words as choices of themselves. */
export const choicesOf = <T extends string>(labels: readonly T[]): readonly Choice<T>[] =>
  labels.map((w) => ({ id: w, label: w }));

/** Does a number of this form still wait to be mended? Then nothing goes out, and one is led to it. */
export function anyUnread(numbers: Signal<readonly NumberField[]>): boolean {
  const unread = numbers().find((n) => n.textError() !== "");
  unread?.focus();
  return unread !== undefined;
}
