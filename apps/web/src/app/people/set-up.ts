import { ChangeDetectionStrategy, Component, inject, output } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { keeperTrouble, PEOPLE_OPERATIONS, type Me } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { TextField } from "../shared/fields";
import { byRule, bySchema } from "../shared/schema-form";
import { SendForm } from "../shared/send-form";
import { SecretField } from "./secret-field";

const blank = (): FormControl<string> => new FormControl("", { nonNullable: true });

/** A server that nobody keeps yet: who reads the code on its console keeps it. */
@Component({
  selector: "ip-set-up",
  imports: [ButtonDirective, ReactiveFormsModule, SecretField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h1 id="door-title">Nobody keeps this server yet</h1>
    <p class="lead">
      Whoever keeps it adds the others, gives them PINs, and looks after the backups. The code stands where the server
      was started, and is good for once.
    </p>
    <form [formGroup]="form" (ngSubmit)="save()" aria-label="Who keeps it">
      <div class="fields">
        <ip-text-field label="Code from the server’s console" formControlName="code" [most]="20" />
        <ip-text-field label="Your name" formControlName="name" hint="as it stands under what you sign" [most]="40" />
        <ip-text-field label="Your sign" formControlName="sign" hint="one to four letters" [most]="4" />
        <ip-secret-field
          label="A passphrase"
          formControlName="secret"
          hint="at least 10 characters, not digits alone"
        />
      </div>
      @if (sending.refusal()) {
        <p class="bad" role="alert">{{ sending.refusal() }}</p>
      }
      <div class="acts">
        <button type="submit" pButton [disabled]="sending.busy()">Keep this server</button>
      </div>
    </form>
  `,
  styles: `
    .lead {
      max-width: 620px;
    }
  `,
})
export class SetUp {
  readonly entered = output<Me>();
  private readonly api = inject(Api);
  protected readonly sending = new SendForm();
  protected readonly form = new FormGroup(
    {
      ...{ code: blank(), name: blank(), sign: blank() },
      secret: new FormControl("", { nonNullable: true, validators: byRule(keeperTrouble) }),
    },
    { validators: bySchema(PEOPLE_OPERATIONS.setUpKeeper.body, (form: object) => form) },
  );

  protected save(): void {
    const body = this.form.getRawValue();
    this.sending.send(
      this.form,
      () => this.api.call("setUpKeeper", { body }),
      (me) => this.entered.emit(me),
    );
  }
}
