import { ChangeDetectionStrategy, Component, inject, input, output } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { parseDecimal, type MachineMeter } from "@iron/contract";
import { dayOf } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { newKey } from "../data/new-key";
import { VersionedSave } from "../data/versioned-save";
import { TextField } from "../shared/fields";
import { byRule, gate } from "../shared/schema-form";
import { TickBox } from "../shared/tick-box";

/** One reading of a machine’s hour meter, typed; the simulated machine reads its own. */
@Component({
  selector: "ip-meter-reading",
  imports: [ButtonDirective, ReactiveFormsModule, TextField, TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <form class="acts" [formGroup]="form" (ngSubmit)="keep()" [attr.aria-label]="'Reading of ' + meter().nickname">
      <ip-text-field label="Hours now" mode="decimal" formControlName="hours" />
      <ip-tick-box formControlName="reset">replaced or set back before</ip-tick-box>
      <button type="submit" pButton severity="secondary" [disabled]="sending.busy()">Keep the reading</button>
      @if (simulated()) {
        <button type="button" pButton severity="secondary" [disabled]="sending.busy()" (click)="read()">
          Read the simulated machine
        </button>
      }
    </form>
    <div class="said">
      @if (sending.message(); as message) {
        <p class="wrong" role="alert">{{ message }}</p>
      }
    </div>
  `,
})
export class MeterReading {
  readonly meter = input.required<MachineMeter>();
  readonly simulated = input(false);
  readonly kept = output<MachineMeter[]>();
  private readonly api = inject(Api);
  private readonly maySend = gate();
  protected readonly sending = new VersionedSave<never>();
  protected readonly form = new FormGroup({
    hours: new FormControl("", {
      nonNullable: true,
      validators: byRule<string>((text) =>
        parseDecimal(text) === undefined ? `“${text.trim()}” is not a number of hours.` : "",
      ),
    }),
    reset: new FormControl(false, { nonNullable: true }),
  });

  protected keep(): void {
    if (!this.maySend(this.form)) return;
    const { hours, reset } = this.form.getRawValue();
    const body = { key: newKey(), date: dayOf(new Date()), hours: parseDecimal(hours) ?? NaN, reset };
    this.sending.send(
      () => this.api.call("addMeter", { params: { id: this.meter().machineId }, body }),
      (all) => {
        this.form.reset();
        this.kept.emit(all);
      },
    );
  }

  protected read(): void {
    this.sending.send(
      () => this.api.call("readMeter", { params: { id: this.meter().machineId } }),
      (all) => this.kept.emit(all),
    );
  }
}
