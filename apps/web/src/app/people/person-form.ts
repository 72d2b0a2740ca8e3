import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { keeperTrouble, personEditSchema, type Person, type PersonEdit, type Role } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { VersionedSave } from "../data/versioned-save";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { ChoiceField, TextField } from "../shared/fields";
import { Opens } from "../shared/opens";
import { bySchema, gate } from "../shared/schema-form";
import { ROLE_SAYS } from "./people.view";
import { SecretField } from "./secret-field";

interface Typed extends PersonEdit {
  readonly secret: string;
}

const SAID: readonly SaidField<PersonEdit>[] = [
  { label: "Name", value: (p) => p.name },
  { label: "Sign", value: (p) => p.sign },
  { label: "May", value: (p) => ROLE_SAYS[p.role] },
];

/** Somebody’s name, sign and role. The first of all chooses a passphrase: who keeps the system lets the others in. */
@Component({
  selector: "ip-person-form",
  imports: [BothVersions, ButtonDirective, ChoiceField, Opens, ReactiveFormsModule, SecretField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form ipOpens class="boxed" [formGroup]="form" (ngSubmit)="save()" aria-label="Person">
      <div class="fields">
        <ip-text-field label="Name" formControlName="name" hint="as it stands under what they sign" [most]="40" />
        <ip-text-field label="Sign" formControlName="sign" hint="one to four letters" [most]="4" />
        @if (!first()) {
          <ip-choice-field label="May" formControlName="role" [choices]="roles" />
        } @else {
          <ip-secret-field
            label="A passphrase"
            formControlName="secret"
            hint="at least 10 characters, not digits alone"
          />
        }
      </div>
      @if (edit.theirs()) {
        <ip-both-versions
          [message]="edit.message()"
          [rows]="conflicts()"
          (keepMine)="save()"
          (takeTheirs)="left.emit()"
        />
      } @else {
        @if (edit.message()) {
          <p class="bad" role="alert">{{ edit.message() }}</p>
        }
        <div class="acts">
          <button type="submit" pButton [disabled]="edit.busy()">{{ start() ? "Keep it" : "Add" }}</button>
          <button type="button" pButton severity="secondary" (click)="left.emit()">Back</button>
        </div>
      }
    </form>
  `,
})
export class PersonForm {
  /** Who is changed; null for a new one. */
  readonly start = input.required<Person | null>();
  /** Nobody is there yet. */
  readonly first = input(false);
  /** Kept: the PIN to begin with, where one was given. */
  readonly kept = output<{ readonly name: string; readonly given: string | null }>();
  readonly left = output();
  private readonly api = inject(Api);
  private readonly maySend = gate();
  protected readonly roles = Object.entries(ROLE_SAYS).map(([id, label]) => ({ id: id as Role, label }));
  protected readonly form = new FormGroup(
    {
      name: new FormControl("", { nonNullable: true }),
      sign: new FormControl("", { nonNullable: true }),
      role: new FormControl<Role>("technician", { nonNullable: true }),
      secret: new FormControl("", { nonNullable: true }),
    },
    { validators: bySchema(personEditSchema, ({ secret: _, ...edit }: Typed) => edit) },
  );
  protected readonly edit = new VersionedSave<Person>();
  protected readonly conflicts = computed(() => {
    const theirs = this.edit.theirs();
    return theirs ? differing<PersonEdit>(this.form.getRawValue(), theirs, SAID) : [];
  });

  constructor() {
    effect(() => {
      const start = this.start();
      this.edit.begin(start);
      const role = this.first() ? "keeper" : (start?.role ?? "technician");
      this.form.reset({ name: start?.name ?? "", sign: start?.sign ?? "", role, secret: "" });
    });
  }

  protected save(): void {
    const { secret, ...person } = this.form.getRawValue();
    const trouble = this.first() ? keeperTrouble(secret) : "";
    this.form.controls.secret.setErrors(trouble ? { said: trouble } : null);
    if (!this.maySend(this.form)) return;
    const start = this.start();
    this.edit.send(
      (version) =>
        start
          ? this.api.call("updatePerson", {
              params: { id: start.id },
              body: { ...person, retired: start.retiredAt !== null, version },
            })
          : this.api.call("addPerson", { body: { ...person, ...(this.first() ? { secret } : {}) } }),
      (kept) => this.kept.emit({ name: kept.name, given: (kept as { given?: string | null }).given ?? null }),
    );
  }
}
