import { ChangeDetectionStrategy, Component, input } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { MACHINE_KIND_TEXT, MACHINE_KINDS } from "@iron/core";
import { machineEditSchema, type MachineEdit } from "@iron/contract";
import { ChoiceField, NumberField, TextField } from "../shared/fields";
import { bySchema } from "../shared/schema-form";

export type MachineFormGroup = FormGroup<{ [K in keyof MachineEdit]: FormControl<MachineEdit[K]> }>;

/** The form of a machine, right when the contract says so. */
export function machineForm(start: MachineEdit): MachineFormGroup {
  const of = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });
  const { nickname, bay, kind, hoursPerWeek, note } = start;
  return new FormGroup(
    { nickname: of(nickname), bay: of(bay), kind: of(kind), hoursPerWeek: of(hoursPerWeek), note: of(note) },
    { validators: bySchema(machineEditSchema, (machine: MachineEdit) => machine) },
  );
}

/** The fields of a machine; whoever shows it keeps the form. */
@Component({
  selector: "ip-machine-form",
  imports: [ReactiveFormsModule, ChoiceField, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="fields" [formGroup]="form()">
      <ip-text-field label="Nickname" formControlName="nickname" />
      <ip-text-field label="Bay" formControlName="bay" />
      <ip-choice-field label="Kind" formControlName="kind" [choices]="kinds" />
      <ip-number-field label="Working hours per week" formControlName="hoursPerWeek" />
      <ip-text-field class="wide" label="Note" formControlName="note" lines />
    </div>
  `,
})
export class MachineForm {
  readonly form = input.required<MachineFormGroup>();
  protected readonly kinds = MACHINE_KINDS.map((id) => ({ id, label: MACHINE_KIND_TEXT[id] }));
}
