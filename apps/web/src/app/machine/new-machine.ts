import { ChangeDetectionStrategy, Component, inject, signal } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { MachineEdit } from "@iron/contract";
import { Api } from "../data/api";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { MachineForm, machineForm } from "./machine-form";
import { byRule, gate } from "../shared/schema-form";
import { TextField } from "../shared/fields";

@Component({
  selector: "ip-new-machine",
  imports: [ReactiveFormsModule, ButtonDirective, MachineForm, RouterLink, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>Add a machine</h1>
      <p class="quiet">
        Its axes come with what is usual for its kind; change what differs afterwards.
        <a routerLink="/machines/list">Many at once, from a list</a>
      </p>
      <form [formGroup]="form" (ngSubmit)="save()">
        <ip-machine-form [form]="form.controls.machine" />
        <div class="fields">
          <ip-text-field label="Axis letters" formControlName="letters" />
        </div>
        @if (error()) {
          <p class="bad" role="alert">{{ error() }}</p>
        }
        <div class="acts">
          <button pButton type="submit" [disabled]="saving()">Add the machine</button>
          <a pButton severity="secondary" routerLink="/floor">Back</a>
        </div>
      </form>
    </main>
  `,
})
export class NewMachine {
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly preferences = inject(Preferences);
  private readonly maySend = gate();
  private readonly start: MachineEdit = { nickname: "", bay: "", kind: "vertical-centre", hoursPerWeek: 40, note: "" };
  protected readonly form = new FormGroup({
    machine: machineForm(this.start),
    letters: new FormControl("X Y Z", { nonNullable: true, validators: byRule(lettersMessage) }),
  });
  protected readonly saving = signal(false);
  protected readonly error = signal("");

  protected save(): void {
    if (!this.maySend(this.form) || this.saving()) return;
    const { machine, letters } = this.form.getRawValue();
    const onward = this.onward.fromHere();
    this.saving.set(true);
    this.api
      .call("createMachine", {
        body: { ...machine, letters: lettersOf(letters), units: this.preferences.system() },
      })
      .subscribe({
        next: ({ id }) => onward(`/machines/${id}`),
        error: (error: unknown) => {
          this.saving.set(false);
          this.error.set(problemFrom(error).detail);
        },
      });
  }
}

function lettersOf(text: string): string[] {
  return text
    .toUpperCase()
    .split(/[\s,;]+/)
    .filter(Boolean);
}

function lettersMessage(text: string): string {
  const list = lettersOf(text);
  const bad = list.find((l) => !/^[A-Z][0-9]?$/.test(l));
  if (bad) return `“${bad}” is no axis letter: one capital, perhaps with a digit, and spaces between.`;
  const twice = list.find((l, i, all) => all.indexOf(l) !== i);
  return twice ? `${twice} is there twice.` : "";
}
