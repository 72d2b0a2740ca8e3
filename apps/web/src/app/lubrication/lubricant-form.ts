import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { lubricantEditSchema, type LubricantEdit, type LubricantRecord } from "@iron/contract";
import { BASE_OILS, LUBRICANT_KINDS, THICKENERS } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { VersionedSave } from "../data/versioned-save";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { ChoiceField, choicesOf, NumberField, TextField } from "../shared/fields";
import { Opens } from "../shared/opens";
import { bySchema, gate } from "../shared/schema-form";
import { May } from "../shared/may";

/** Nothing chosen in a list reads as an empty text. */
type Typed = Omit<LubricantEdit, "thickener" | "base"> & {
  readonly thickener: LubricantEdit["thickener"] | "";
  readonly base: LubricantEdit["base"] | "";
};

const EMPTY: Typed = {
  name: "",
  kind: "grease",
  thickener: "",
  base: "mineral",
  nlgi: 2,
  viscosity: null,
  containerG: 400,
  leadDays: 7,
  reserveG: 100,
};
const SAID: readonly SaidField<LubricantEdit>[] = [
  { label: "Name", value: (l) => l.name },
  { label: "Kind", value: (l) => l.kind },
  { label: "Thickener of a grease", value: (l) => l.thickener ?? "not known" },
  { label: "Base oil", value: (l) => l.base ?? "not known" },
  { label: "NLGI of a grease", value: (l) => String(l.nlgi ?? "") },
  { label: "ISO VG of an oil", value: (l) => String(l.viscosity ?? "") },
  { label: "A container holds, g", value: (l) => String(l.containerG) },
  { label: "Days to arrive", value: (l) => String(l.leadDays) },
  { label: "Reserve, g", value: (l) => String(l.reserveG) },
];
const of = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });

/** What a lubricant is, and how much of it is ordered when. */
@Component({
  selector: "ip-lubricant-form",
  imports: [May, ButtonDirective, BothVersions, ChoiceField, NumberField, Opens, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form ipOpens class="boxed" [formGroup]="form" (ngSubmit)="keep()" aria-label="Lubricant">
      <div class="fields">
        <ip-text-field label="Name" formControlName="name" />
        <ip-choice-field label="Kind" formControlName="kind" [choices]="kinds" />
        <ip-choice-field
          label="Thickener of a grease"
          none="not known"
          formControlName="thickener"
          [choices]="thickeners"
        />
        <ip-choice-field label="Base oil" none="not known" formControlName="base" [choices]="bases" />
        <ip-number-field label="NLGI of a grease" none formControlName="nlgi" />
        <ip-number-field label="ISO VG of an oil" none formControlName="viscosity" />
        <ip-number-field label="A container holds, g" formControlName="containerG" />
        <ip-number-field label="Days to arrive" formControlName="leadDays" />
        <ip-number-field label="Reserve, g" formControlName="reserveG" />
      </div>
      @if (edit.theirs()) {
        <ip-both-versions
          [message]="edit.message()"
          [rows]="conflicts()"
          (keepMine)="keep()"
          (takeTheirs)="taken.emit()"
        />
      } @else {
        @if (edit.message()) {
          <p class="wrong" role="alert">{{ edit.message() }}</p>
        }
        <div class="acts next">
          <button *ipMay="'updateLubricant'" type="submit" pButton [disabled]="edit.busy()">Keep the lubricant</button>
          <button type="button" pButton severity="secondary" (click)="left.emit()">Leave it</button>
        </div>
      }
    </form>
  `,
})
export class LubricantForm {
  /** The one that is changed; null for a new one. */
  readonly start = input.required<LubricantRecord | null>();
  readonly kept = output<readonly LubricantRecord[]>();
  /** Theirs is as it shall be. */
  readonly taken = output();
  readonly left = output();
  private readonly api = inject(Api);
  private readonly maySend = gate();
  protected readonly kinds = choicesOf(LUBRICANT_KINDS);
  protected readonly thickeners = choicesOf(THICKENERS);
  protected readonly bases = choicesOf(BASE_OILS);
  protected readonly form = new FormGroup(
    {
      name: of(EMPTY.name),
      kind: of(EMPTY.kind),
      thickener: of(EMPTY.thickener),
      base: of(EMPTY.base),
      nlgi: of(EMPTY.nlgi),
      viscosity: of(EMPTY.viscosity),
      containerG: of(EMPTY.containerG),
      leadDays: of(EMPTY.leadDays),
      reserveG: of(EMPTY.reserveG),
    },
    { validators: bySchema(lubricantEditSchema, lubricantOf) },
  );
  protected readonly edit = new VersionedSave<LubricantEdit & Pick<LubricantRecord, "version">>();
  protected readonly conflicts = computed(() => {
    const theirs = this.edit.theirs();
    return theirs ? differing<LubricantEdit>(lubricantOf(this.form.getRawValue()), theirs, SAID) : [];
  });

  constructor() {
    effect(() => {
      const start = this.start();
      this.edit.begin(start);
      this.form.reset(start ? { ...start, thickener: start.thickener ?? "", base: start.base ?? "" } : EMPTY);
    });
  }

  protected keep(): void {
    if (!this.maySend(this.form)) return;
    const body = lubricantOf(this.form.getRawValue());
    const id = this.start()?.id;
    this.edit.send(
      (version) =>
        id === undefined
          ? this.api.call("createLubricant", { body })
          : this.api.call("updateLubricant", { params: { id }, body: { ...body, version } }),
      (list) => this.kept.emit(list),
    );
  }
}

function lubricantOf(typed: Typed): LubricantEdit {
  return { ...typed, thickener: typed.thickener || null, base: typed.base || null };
}
