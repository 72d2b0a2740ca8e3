import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { MachineEdit } from "@iron/contract";
import { InputText } from "primeng/inputtext";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { MachineForm, machineErrors } from "./machine-form";

@Component({
  selector: "ip-new-machine",
  imports: [ButtonDirective, MachineForm, RouterLink, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>Add a machine</h1>
      <p class="quiet">Its axes come with what is usual for its kind; change what differs afterwards.</p>
      <form (submit)="$event.preventDefault(); save()" novalidate>
        <ip-machine-form [draft]="draft()" [strict]="strict()" (draftChange)="draft.set($event)" />
        <div class="field letters">
          <label for="letters">Axis letters</label>
          <input
            pInputText
            id="letters"
            autocomplete="off"
            [value]="letters()"
            (input)="letters.set($any($event.target).value)"
            [attr.aria-invalid]="!!lettersWrong()"
            aria-describedby="letters-said"
          />
          <span id="letters-said" class="wrong">{{ lettersWrong() }}</span>
        </div>
        @if (wrong()) {
          <p class="bad" role="alert">{{ wrong() }}</p>
        }
        <div class="acts">
          <button pButton type="submit" [disabled]="saving()">Add the machine</button>
          <a pButton severity="secondary" routerLink="/floor">Back</a>
        </div>
      </form>
    </main>
  `,
  styles: `
    .letters {
      max-width: 260px;
      margin: var(--space-4) 0;
    }
  `,
})
export class NewMachine {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly preferences = inject(Preferences);
  protected readonly draft = signal<MachineEdit>({
    nickname: "",
    bay: "",
    kind: "vertical-centre",
    hoursPerWeek: 40,
    note: "",
  });
  protected readonly letters = signal("X Y Z");
  protected readonly strict = signal(false);
  protected readonly saving = signal(false);
  protected readonly wrong = signal("");
  private readonly list = computed(() =>
    this.letters()
      .toUpperCase()
      .split(/[\s,;]+/)
      .filter(Boolean),
  );
  protected readonly lettersWrong = computed(() => {
    const bad = this.list().find((l) => !/^[A-Z][0-9]?$/.test(l));
    if (bad) return `“${bad}” is no axis letter: one capital, perhaps with a digit, and spaces between.`;
    const twice = this.list().find((l, i, all) => all.indexOf(l) !== i);
    return twice ? `${twice} is there twice.` : "";
  });

  protected save(): void {
    this.strict.set(true);
    if (machineErrors(this.draft()).size > 0 || this.lettersWrong() || this.saving()) return;
    this.saving.set(true);
    this.api
      .call("createMachine", {
        body: {
          ...this.draft(),
          letters: this.list(),
          units: this.preferences.system(),
        },
      })
      .subscribe({
        next: (machine) => void this.router.navigate(["/machines", machine.id]),
        error: (error: unknown) => {
          this.saving.set(false);
          this.wrong.set(problemFrom(error).detail);
        },
      });
  }
}
