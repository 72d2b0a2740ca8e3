import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { partOrderCreateSchema } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { newKey } from "../data/new-key";
import { problemFrom } from "../data/problems";
import { NumberField, TextField } from "../shared/fields";
import { Opens } from "../shared/opens";
import { bySchema, gate } from "../shared/schema-form";
import { PartOrders } from "./part-orders";

const typedSchema = partOrderCreateSchema.pick({ part: true, count: true, why: true });

/** A part is put on the list of what to order: which, how many, what for. */
@Component({
  selector: "ip-order-form",
  imports: [ButtonDirective, NumberField, Opens, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form ipOpens class="boxed" [formGroup]="form" (ngSubmit)="keep()" aria-label="Order a part">
      <div class="fields">
        <ip-text-field label="Part" formControlName="part" />
        <ip-number-field label="How many" formControlName="count" />
        <ip-text-field label="What for" formControlName="why" />
      </div>
      @if (message()) {
        <p class="wrong" role="alert">{{ message() }}</p>
      }
      <div class="acts next">
        <button type="submit" pButton [disabled]="busy()">Put it on the list</button>
        <button type="button" pButton severity="secondary" (click)="left.emit()">Leave it</button>
      </div>
    </form>
  `,
})
export class OrderForm {
  readonly part = input("");
  readonly count = input(1);
  readonly why = input("");
  readonly pointId = input<number | null>(null);
  readonly kept = output();
  readonly left = output();
  private readonly orders = inject(PartOrders);
  private readonly maySend = gate();
  protected readonly busy = signal(false);
  protected readonly message = signal("");
  /** What was sent last: the same again is kept once, anything else is another order. */
  private sent = { text: "", key: "" };
  protected readonly form = new FormGroup(
    {
      part: new FormControl("", { nonNullable: true }),
      count: new FormControl(1, { nonNullable: true }),
      why: new FormControl("", { nonNullable: true }),
    },
    { validators: bySchema(typedSchema, (typed: { part: string; count: number; why: string }) => typed) },
  );

  constructor() {
    effect(() => this.form.reset({ part: this.part(), count: this.count(), why: this.why() }));
  }

  protected keep(): void {
    if (!this.maySend(this.form)) return;
    const typed = this.form.getRawValue();
    const text = JSON.stringify(typed);
    if (text !== this.sent.text) this.sent = { text, key: newKey() };
    const { key } = this.sent;
    this.busy.set(true);
    this.message.set("");
    const machineId = null;
    this.orders.put({ ...typed, key, machineId, pointId: this.pointId() }).subscribe({
      next: () => {
        this.busy.set(false);
        this.kept.emit();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.message.set(problemFrom(error).detail);
      },
    });
  }
}
