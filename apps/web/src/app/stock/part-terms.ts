import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { partTermsSchema, type PartRecord, type Parts, type PartTerms } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { VersionedSave } from "../data/versioned-save";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { NumberField } from "../shared/fields";
import { Opens } from "../shared/opens";
import { bySchema, gate } from "../shared/schema-form";
import { May } from "../shared/may";

type Typed = Omit<PartTerms, "part" | "version">;
const SAID: readonly SaidField<Typed>[] = [
  { label: "Price of one", value: (t) => String(t.price) },
  { label: "Days to arrive", value: (t) => String(t.leadDays) },
  { label: "Days a machine stands without one", value: (t) => String(t.waitDays) },
  { label: "Always at least", value: (t) => String(t.least) },
];
const of = (value: number): FormControl<number> => new FormControl(value, { nonNullable: true });

/** What the shop knows of a part better than what is usual: from it follows how many are held. */
@Component({
  selector: "ip-part-terms",
  imports: [May, BothVersions, ButtonDirective, NumberField, Opens, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form ipOpens class="boxed" [formGroup]="form" (ngSubmit)="keep()" [attr.aria-label]="part().part">
      <h2>{{ part().part }}</h2>
      <p>{{ part().why || "No axis here is known to have it: it is ordered when somebody wants it." }}</p>
      @if (part().axes.length) {
        <p class="quiet">On {{ part().axes.join(", ") }}.</p>
      }
      <div class="fields">
        <ip-number-field [label]="'Price of one, ' + currency()" formControlName="price" />
        <ip-number-field label="Days to arrive" formControlName="leadDays" />
        <ip-number-field label="Days a machine stands without one" formControlName="waitDays" />
        <ip-number-field label="Always at least" formControlName="least" />
      </div>
      @if (part().usual) {
        <p class="quiet">These are what is usual (common practice, no source): put your own in their place.</p>
      }
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
          <button *ipMay="'partTerms'" type="submit" pButton [disabled]="edit.busy()">Keep these figures</button>
          <button type="button" pButton severity="secondary" (click)="left.emit()">Leave it</button>
        </div>
      }
    </form>
  `,
})
export class PartTermsForm {
  readonly part = input.required<PartRecord>();
  readonly currency = input("");
  readonly kept = output<Parts>();
  readonly taken = output();
  readonly left = output();
  private readonly api = inject(Api);
  private readonly maySend = gate();
  protected readonly form = new FormGroup(
    { price: of(0), leadDays: of(7), waitDays: of(2), least: of(0) },
    { validators: bySchema(partTermsSchema.omit({ part: true, version: true }), (typed: Typed) => typed) },
  );
  protected readonly edit = new VersionedSave<PartTerms>();
  protected readonly conflicts = computed(() => {
    const theirs = this.edit.theirs();
    return theirs ? differing<Typed>(this.form.getRawValue(), theirs, SAID) : [];
  });

  /** What the form begins from: what is counted meanwhile leaves what is typed. */
  private readonly terms = computed(() => this.part().terms, {
    equal: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  });

  constructor() {
    effect(() => {
      const terms = this.terms();
      const { price, leadDays, waitDays, least } = terms;
      this.edit.begin(terms);
      this.form.reset({ price, leadDays, waitDays, least });
    });
  }

  protected keep(): void {
    if (!this.maySend(this.form)) return;
    const body = { ...this.form.getRawValue(), part: this.part().part };
    this.edit.send(
      (version) => this.api.call("partTerms", { body: { ...body, version } }),
      (parts) => this.kept.emit(parts),
    );
  }
}
