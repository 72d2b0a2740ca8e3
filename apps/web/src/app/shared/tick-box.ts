import { ChangeDetectionStrategy, Component, effect, forwardRef, input } from "@angular/core";
import { outputFromObservable } from "@angular/core/rxjs-interop";
import { FormControl, NG_VALUE_ACCESSOR, ReactiveFormsModule, type ControlValueAccessor } from "@angular/forms";
import { Checkbox } from "primeng/checkbox";

let made = 0;

/** Yes or no beside its words; the words can be pressed as well. */
@Component({
  selector: "ip-tick-box",
  imports: [Checkbox, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [{ provide: NG_VALUE_ACCESSOR, useExisting: forwardRef(() => TickBox), multi: true }],
  template: `
    <label class="tick-box" [for]="id"
      ><p-checkbox [binary]="true" [inputId]="id" [formControl]="control" (onBlur)="left()" /><span><ng-content /></span
    ></label>
  `,
})
export class TickBox implements ControlValueAccessor {
  readonly checked = input<boolean>();
  protected readonly id = `tick-${(made += 1)}`;
  protected readonly control = new FormControl(false, { nonNullable: true });
  readonly ticked = outputFromObservable(this.control.valueChanges);
  protected left: () => void = () => undefined;

  constructor() {
    effect(() => {
      const checked = this.checked();
      if (checked !== undefined) this.writeValue(checked);
    });
  }

  writeValue(checked: boolean): void {
    this.control.setValue(checked, { emitEvent: false });
  }

  registerOnChange(tell: (checked: boolean) => void): void {
    this.control.valueChanges.subscribe(tell);
  }

  registerOnTouched(left: () => void): void {
    this.left = left;
  }

  setDisabledState(off: boolean): void {
    if (off) this.control.disable({ emitEvent: false });
    else this.control.enable({ emitEvent: false });
  }
}
