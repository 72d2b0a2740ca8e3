import { ChangeDetectionStrategy, Component, effect, input, output } from "@angular/core";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { SelectButton } from "primeng/selectbutton";

let made = 0;

/** Yes, no or unknown: unknown is an answer too, and not the same as no. */
@Component({
  selector: "ip-triple",
  imports: [ReactiveFormsModule, SelectButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="sr-only" [id]="id">{{ label() }}</span>
    <p-selectbutton
      optionLabel="label"
      optionValue="id"
      [allowEmpty]="false"
      [ariaLabelledBy]="id"
      [options]="options"
      [formControl]="control"
    >
      <ng-template #item let-one>
        {{ one.label }}
        @if (one.hint) {
          <span class="sr-only"> {{ one.hint }}</span>
        }
      </ng-template>
    </p-selectbutton>
  `,
})
export class Triple {
  readonly label = input.required<string>();
  readonly value = input.required<boolean | null>();
  readonly disabled = input(false);
  readonly picked = output<boolean | null>();
  protected readonly id = `triple-${(made += 1)}`;
  protected readonly options = [
    { id: "yes", label: "Yes", hint: "" },
    { id: "no", label: "No", hint: "" },
    { id: "unknown", label: "?", hint: "not known" },
  ];
  protected readonly control = new FormControl("unknown", { nonNullable: true });

  constructor() {
    effect(() => {
      const value = this.value();
      this.control.setValue(value === null ? "unknown" : value ? "yes" : "no", { emitEvent: false });
    });
    effect(() =>
      this.disabled() ? this.control.disable({ emitEvent: false }) : this.control.enable({ emitEvent: false }),
    );
    this.control.valueChanges.subscribe((id) => this.picked.emit(id === "unknown" ? null : id === "yes"));
  }
}
