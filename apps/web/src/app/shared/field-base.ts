import { computed, Directive, inject, input, linkedSignal, signal, type OnInit, DestroyRef } from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import { NgControl, type ControlValueAccessor } from "@angular/forms";
import { messageOf } from "./schema-form";

let made = 0;

/**
 * What every labelled field has: its label, a value that comes from an input or from a form’s control, and room below
 * itself for what is wrong, so that nothing moves when it is said.
 */
@Directive()
export abstract class FieldBase<T> implements ControlValueAccessor, OnInit {
  readonly label = input.required<string>();
  /** Said below the field while nothing is wrong. */
  readonly hint = input("");
  readonly value = input<T>();
  /** What whoever gives the value has against it. */
  readonly error = input<string | undefined>("");
  protected readonly id = `field-${(made += 1)}`;
  protected readonly held = linkedSignal<T | undefined>(() => this.value());
  protected readonly off = signal(false);
  private readonly byForm = signal("");
  /** What the form, or whoever gives the value, has against it. */
  protected readonly refused = computed(() => this.error() || this.byForm());
  private readonly ngControl = inject(NgControl, { self: true, optional: true });
  private readonly destroyed = inject(DestroyRef);
  private tellForm: (value: T) => void = () => undefined;
  private left: () => void = () => undefined;

  constructor() {
    if (this.ngControl) this.ngControl.valueAccessor = this;
  }

  ngOnInit(): void {
    const control = this.ngControl?.control;
    if (!control) return;
    const read = (): void => {
      this.byForm.set(control.touched || control.dirty ? messageOf(control) : "");
    };
    control.events.pipe(takeUntilDestroyed(this.destroyed)).subscribe(read);
    // What several fields say together is known by the form they stand in.
    control.root.events.pipe(takeUntilDestroyed(this.destroyed)).subscribe(read);
    read();
  }

  writeValue(value: T): void {
    this.held.set(value);
  }

  registerOnChange(tell: (value: T) => void): void {
    this.tellForm = tell;
  }

  registerOnTouched(left: () => void): void {
    this.left = left;
  }

  setDisabledState(off: boolean): void {
    this.off.set(off);
  }

  protected tell(value: T): void {
    this.held.set(value);
    this.tellForm(value);
  }

  protected blurred(): void {
    this.left();
  }
}
