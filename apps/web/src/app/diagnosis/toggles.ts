import { booleanAttribute, ChangeDetectionStrategy, Component, effect, input, output } from "@angular/core";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { SelectButton } from "primeng/selectbutton";
import type { Toggle } from "./case.view";

let made = 0;

/** A few things side by side, one or several of which are so; pressing again takes it back. */
@Component({
  selector: "ip-toggles",
  imports: [ReactiveFormsModule, SelectButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "toggles" },
  template: `
    <span [class.sr-only]="quietly()" [id]="id">{{ label() }}</span>
    <p-selectbutton
      optionLabel="label"
      optionValue="id"
      [multiple]="several()"
      [allowEmpty]="true"
      [ariaLabelledBy]="id"
      [options]="$any(options())"
      [formControl]="control"
    />
  `,
})
export class Toggles<T extends string> {
  readonly label = input.required<string>();
  readonly options = input.required<readonly Toggle<T>[]>();
  /** What is pressed. */
  readonly value = input.required<readonly T[]>();
  readonly several = input(false, { transform: booleanAttribute });
  readonly quietly = input(false, { transform: booleanAttribute });
  readonly picked = output<readonly T[]>();
  /** Where only one can be: it, or null. */
  readonly one = output<T | null>();
  protected readonly id = `toggles-${(made += 1)}`;
  protected readonly control = new FormControl<T | T[] | null>(null);

  constructor() {
    effect(() => {
      const value = [...this.value()];
      this.control.setValue(this.several() ? value : (value[0] ?? null), { emitEvent: false });
    });
    this.control.valueChanges.subscribe((value) => {
      if (Array.isArray(value)) this.picked.emit(value);
      else this.one.emit(value);
    });
  }
}
