import { ChangeDetectionStrategy, Component, effect, input } from "@angular/core";
import { outputFromObservable } from "@angular/core/rxjs-interop";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { Checkbox } from "primeng/checkbox";

let made = 0;

/** Yes or no beside its words; the words can be pressed as well. */
@Component({
  selector: "ip-tick-box",
  imports: [Checkbox, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="tick-box" [for]="id"
      ><p-checkbox [binary]="true" [inputId]="id" [formControl]="control" /><span><ng-content /></span
    ></label>
  `,
})
export class TickBox {
  readonly checked = input.required<boolean>();
  protected readonly id = `tick-${(made += 1)}`;
  protected readonly control = new FormControl(false, { nonNullable: true });
  readonly ticked = outputFromObservable(this.control.valueChanges);

  constructor() {
    effect(() => this.control.setValue(this.checked(), { emitEvent: false }));
  }
}
