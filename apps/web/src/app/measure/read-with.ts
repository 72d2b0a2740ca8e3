import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { tipAngleFactor } from "@iron/core";
import { runSetupSchema, SURFACES, type IndicatorRecord, type RunSetup } from "@iron/contract";
import { ChoicesPipe } from "../shared/choices.pipe";
import { ChoiceField, NumberField, type Choice } from "../shared/fields";
import { bySchema, valueOf } from "../shared/schema-form";

type Sense = RunSetup["sense"];
type Surface = RunSetup["surface"];

/** What readings are taken with: which indicator, how its tip stands, against what, and how warm it is. */
export type ReadWithForm = FormGroup<{
  indicator: FormControl<number | null>;
  tipAngleDeg: FormControl<number>;
  surface: FormControl<Surface>;
  sense: FormControl<Sense>;
  temperatureC: FormControl<number | null>;
}>;

const SAID = runSetupSchema.pick({ tipAngleDeg: true, surface: true, sense: true, temperatureC: true });

export function readWithForm(temperatureC: number | null): ReadWithForm {
  return new FormGroup(
    {
      indicator: new FormControl<number | null>(null),
      tipAngleDeg: new FormControl(0, { nonNullable: true }),
      surface: new FormControl<Surface>("gauge block", { nonNullable: true }),
      sense: new FormControl<Sense>(1, { nonNullable: true }),
      temperatureC: new FormControl(temperatureC),
    },
    { validators: bySchema(SAID, (value) => value) },
  );
}

/** An indicator is taken in hand, and its tip stands as it usually does. */
export function readWith(form: ReadWithForm, indicator: IndicatorRecord): void {
  form.patchValue({ indicator: indicator.id, tipAngleDeg: indicator.tipAngleDeg });
}

/** As it is sent, with the indicator as it is today. */
export function setupOf(form: ReadWithForm, indicator: IndicatorRecord, note: string): RunSetup {
  const { name, kind, resolutionMm, unit, tipAngleDeg, rangeMm, hysteresisMm, calibrationMm } = indicator;
  const { tipAngleDeg: stands, sense, surface, temperatureC } = form.getRawValue();
  return {
    indicator: { name, kind, resolutionMm, unit, tipAngleDeg, rangeMm, hysteresisMm, calibrationMm },
    tipAngleDeg: stands,
    sense,
    surface,
    temperatureC,
    note,
  };
}

/** How the sense of an indicator is asked: what makes its needle rise, and what makes it fall. */
export interface SenseAsk {
  readonly label: string;
  readonly one: string;
  readonly other: string;
}

/** The fields of {@link ReadWithForm}, in the grid of the form they stand in. */
@Component({
  selector: "ip-read-with",
  imports: [ReactiveFormsModule, ChoiceField, NumberField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: ":host { display: contents; }",
  template: `
    <ng-container [formGroup]="form()">
      <ip-choice-field
        label="Indicator"
        formControlName="indicator"
        [choices]="indicators() | choices: 'id' : 'name'"
        (chosen)="taken($event)"
      />
      <ip-number-field label="Tip angle, °" formControlName="tipAngleDeg" [hint]="factor()" />
      <ip-choice-field label="Against" formControlName="surface" [choices]="surfaces | choices" />
      <ip-choice-field [label]="ask().label" formControlName="sense" [choices]="senses()" />
      <ip-number-field label="Temperature, °C" none hint="empty if not noted" formControlName="temperatureC" />
    </ng-container>
  `,
})
export class ReadWith {
  readonly form = input.required<ReadWithForm>();
  readonly indicators = input.required<readonly IndicatorRecord[]>();
  readonly ask = input.required<SenseAsk>();
  protected readonly surfaces = SURFACES;
  protected readonly senses = computed<readonly Choice<Sense>[]>(() => [
    { id: 1, label: this.ask().one },
    { id: -1, label: this.ask().other },
  ]);
  private readonly value = valueOf(this.form);
  protected readonly factor = computed(() => {
    const angle = this.value().tipAngleDeg;
    return angle > 0 && angle < 80 ? `readings × ${tipAngleFactor(angle).toFixed(3)}` : "no correction";
  });

  protected taken(id: number): void {
    const indicator = this.indicators().find((i) => i.id === id);
    if (indicator) readWith(this.form(), indicator);
  }
}
