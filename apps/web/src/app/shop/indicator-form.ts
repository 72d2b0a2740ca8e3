import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { indicatorEditSchema, parseDecimal, type IndicatorEdit, type IndicatorRecord } from "@iron/contract";
import { formatSize, fromMm, toMm, usualOwnErrors } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { VersionedSave } from "../data/versioned-save";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { ChoiceField, choicesOf, TextField } from "../shared/fields";
import { Opens } from "../shared/opens";
import { bySchema, gate } from "../shared/schema-form";

/** As typed: lengths in the indicator’s own unit, so that nothing typed is rounded. */
interface Typed {
  readonly name: string;
  readonly kind: IndicatorEdit["kind"];
  readonly unit: IndicatorEdit["unit"];
  readonly resolutionMm: string;
  readonly tipAngleDeg: string;
  readonly rangeMm: string;
  readonly hysteresisMm: string;
  readonly calibrationMm: string;
}

const BLANK: Typed = {
  name: "",
  kind: "lever",
  unit: "mm",
  resolutionMm: "0.002",
  tipAngleDeg: "12",
  rangeMm: "0.8",
  hysteresisMm: "",
  calibrationMm: "",
};

const systemOf = (i: Pick<IndicatorEdit, "unit">): "inch" | "metric" => (i.unit === "in" ? "inch" : "metric");
const noted = (mm: number | null | undefined, i: IndicatorEdit): string =>
  mm === null || mm === undefined ? "not noted" : formatSize(mm, systemOf(i));
const SAID: readonly SaidField<IndicatorEdit>[] = [
  { label: "Name", value: (i) => i.name },
  { label: "Kind", value: (i) => i.kind },
  { label: "Its unit", value: (i) => i.unit },
  { label: "Smallest step or division", value: (i) => formatSize(i.resolutionMm, systemOf(i)) },
  { label: "Usual tip angle", value: (i) => `${i.tipAngleDeg}°` },
  { label: "Reach", value: (i) => formatSize(i.rangeMm, systemOf(i)) },
  { label: "Hysteresis", value: (i) => noted(i.hysteresisMm, i) },
  { label: "Error over a short reach", value: (i) => noted(i.calibrationMm, i) },
];

/** An indicator’s figures, as its maker or its calibration states them. */
@Component({
  selector: "ip-indicator-form",
  imports: [ButtonDirective, BothVersions, ChoiceField, Opens, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form ipOpens class="boxed" [formGroup]="form" (ngSubmit)="save()" aria-label="Indicator">
      <div class="fields">
        <ip-text-field label="Name" formControlName="name" />
        <ip-choice-field label="Kind" formControlName="kind" [choices]="kinds" />
        <ip-choice-field label="Its unit" formControlName="unit" [choices]="units" />
        <ip-text-field mode="decimal" [label]="'Smallest step or division, ' + unit()" formControlName="resolutionMm" />
        <ip-text-field mode="decimal" label="Usual tip angle, °" formControlName="tipAngleDeg" />
        <ip-text-field mode="decimal" [label]="'Reach, ' + unit()" formControlName="rangeMm" />
        <ip-text-field
          mode="decimal"
          placeholder="not noted"
          hint="going in against coming out"
          [label]="'Hysteresis, ' + unit()"
          formControlName="hysteresisMm"
        />
        <ip-text-field
          mode="decimal"
          placeholder="not noted"
          hint="as its calibration says"
          [label]="'Error over a short reach, ' + unit()"
          formControlName="calibrationMm"
        />
      </div>
      @if (edit.theirs()) {
        <ip-both-versions
          [message]="edit.message()"
          [rows]="conflicts()"
          (keepMine)="save()"
          (takeTheirs)="kept.emit()"
        />
      } @else {
        @if (edit.message()) {
          <p class="bad" role="alert">{{ edit.message() }}</p>
        }
        <div class="acts">
          <button pButton type="submit" [disabled]="edit.busy()">Keep the indicator</button>
          <button pButton severity="secondary" type="button" (click)="takeUsual()">
            Take the usual errors of its kind
          </button>
          <button pButton severity="secondary" type="button" (click)="left.emit()">Back</button>
        </div>
      }
    </form>
  `,
})
export class IndicatorForm {
  /** The one that is changed; null for a new one. */
  readonly start = input.required<IndicatorRecord | null>();
  /** Kept, by whomever. */
  readonly kept = output();
  readonly left = output();
  private readonly api = inject(Api);
  private readonly maySend = gate();
  protected readonly kinds = choicesOf(["lever", "plunger", "digital"]);
  protected readonly units = choicesOf(["mm", "in"]);
  protected readonly form = new FormGroup(
    {
      name: new FormControl(BLANK.name, { nonNullable: true }),
      kind: new FormControl(BLANK.kind, { nonNullable: true }),
      unit: new FormControl(BLANK.unit, { nonNullable: true }),
      resolutionMm: new FormControl(BLANK.resolutionMm, { nonNullable: true }),
      tipAngleDeg: new FormControl(BLANK.tipAngleDeg, { nonNullable: true }),
      rangeMm: new FormControl(BLANK.rangeMm, { nonNullable: true }),
      hysteresisMm: new FormControl(BLANK.hysteresisMm, { nonNullable: true }),
      calibrationMm: new FormControl(BLANK.calibrationMm, { nonNullable: true }),
    },
    { validators: bySchema(indicatorEditSchema, indicatorOf) },
  );
  protected readonly unit = toSignal(this.form.controls.unit.valueChanges, { initialValue: BLANK.unit });
  protected readonly edit = new VersionedSave<IndicatorRecord>();
  protected readonly conflicts = computed(() => {
    const theirs = this.edit.theirs();
    return theirs ? differing<IndicatorEdit>(indicatorOf(this.form.getRawValue()), theirs, SAID) : [];
  });

  constructor() {
    effect(() => {
      const start = this.start();
      this.edit.begin(start);
      this.form.reset(start ? typedOf(start) : BLANK);
    });
  }

  /** What is usual for such an indicator, where its calibration says nothing. */
  protected takeUsual(): void {
    const { kind, unit, resolutionMm } = indicatorOf(this.form.getRawValue());
    const usual = usualOwnErrors(kind, resolutionMm || 0.01);
    const shown = (mm: number): string => String(Number(fromMm(mm, unit).toFixed(5)));
    this.form.patchValue({ hysteresisMm: shown(usual.hysteresisMm), calibrationMm: shown(usual.calibrationMm) });
  }

  protected save(): void {
    if (!this.maySend(this.form)) return;
    const body = indicatorOf(this.form.getRawValue());
    const id = this.start()?.id;
    this.edit.send(
      (version) =>
        id === undefined
          ? this.api.call("createIndicator", { body })
          : this.api.call("updateIndicator", { params: { id }, body: { ...body, version } }),
      () => this.kept.emit(),
    );
  }
}

function typedOf(i: IndicatorRecord): Typed {
  const shown = (mm: number): string => String(Number(fromMm(mm, i.unit).toFixed(6)));
  return {
    name: i.name,
    kind: i.kind,
    unit: i.unit,
    resolutionMm: shown(i.resolutionMm),
    tipAngleDeg: String(i.tipAngleDeg),
    rangeMm: shown(i.rangeMm),
    hysteresisMm: i.hysteresisMm ? shown(i.hysteresisMm) : "",
    calibrationMm: i.calibrationMm ? shown(i.calibrationMm) : "",
  };
}

function indicatorOf(typed: Typed): IndicatorEdit {
  const length = (text: string): number => {
    const value = parseDecimal(text);
    return value === undefined ? NaN : Math.round(toMm(value, typed.unit) * 1e8) / 1e8;
  };
  // Left empty: nobody noted it, and U says so.
  const maybe = (text: string): number | null => (text.trim() === "" ? null : length(text));
  return {
    name: typed.name,
    kind: typed.kind,
    unit: typed.unit,
    resolutionMm: length(typed.resolutionMm),
    tipAngleDeg: parseDecimal(typed.tipAngleDeg) ?? NaN,
    rangeMm: length(typed.rangeMm),
    hysteresisMm: maybe(typed.hysteresisMm),
    calibrationMm: maybe(typed.calibrationMm),
  };
}
