import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { chainOf, defaultAxis, formatSize, MACHINE_KIND_TEXT } from "@iron/core";
import type { Machine, MachineEdit } from "@iron/contract";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Preferences } from "../data/preferences";
import { Loaded } from "../data/loaded";
import { Onward } from "../data/onward";
import { VersionedSave } from "../data/versioned-save";
import { gate } from "../shared/schema-form";
import { MachineStands } from "../prove/machine-stands";
import { MachineForm, machineForm } from "./machine-form";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";
import { NotYours } from "../shared/not-yours";

const SAID: readonly SaidField<MachineEdit>[] = [
  { label: "Nickname", value: (m) => m.nickname },
  { label: "Bay", value: (m) => m.bay },
  { label: "Kind", value: (m) => MACHINE_KIND_TEXT[m.kind] },
  { label: "Hours a week", value: (m) => String(m.hoursPerWeek) },
  { label: "Note", value: (m) => m.note },
];

@Component({
  selector: "ip-machine",
  imports: [
    NotYours,
    May,
    LoadingLines,
    ReactiveFormsModule,
    ButtonDirective,
    BothVersions,
    MachineForm,
    MachineStands,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./machine.html",
  styles: `
    .axes {
      list-style: none;
      padding: 0;
      margin: var(--space-2) 0 var(--space-4);
    }
    .axes li {
      display: flex;
      flex-wrap: wrap;
      gap: var(--space-1) var(--space-4);
      align-items: center;
      border-top: 1px solid var(--rule);
      padding: var(--space-1) 0;
    }
    .axes b {
      font-size: var(--type-4);
      min-width: 32px;
    }
    .axes .grow {
      flex: 1 1 240px;
    }
    h2 {
      margin-top: var(--space-5);
    }
    form .acts {
      margin-top: var(--space-4);
    }
  `,
})
export class MachinePlace {
  readonly machineId = input.required<string>();
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  private readonly loaded = new Loaded(
    () => this.api.call("machine", { params: { id: this.machineId() } }),
    (machine) => this.edit.begin(machine),
  );
  protected readonly machine = this.loaded.value;
  protected readonly message = this.loaded.message;
  private readonly maySend = gate();
  protected readonly form = computed(() => {
    const machine = this.machine();
    return machine ? machineForm(machine) : null;
  });
  protected readonly edit = new VersionedSave<Machine>();
  protected readonly axes = computed(() =>
    (this.machine()?.axes ?? []).map((a) => ({
      id: a.id,
      letter: a.config.letter,
      retired: a.retiredAt !== null,
      text: `${chainOf(a.config)
        .map((l) => l.name.toLowerCase())
        .join(" → ")}; ${formatSize(a.config.travelMm, this.preferences.system())} travel`,
    })),
  );

  constructor() {
    effect(() => {
      this.machineId();
      untracked(() => this.loaded.again());
    });
  }

  /** Where the two versions differ. */
  protected readonly conflicts = computed(() => {
    const [form, theirs] = [this.form(), this.edit.theirs()];
    return form && theirs ? differing<MachineEdit>(form.getRawValue(), theirs, SAID) : [];
  });

  protected save(): void {
    const [form, machine] = [this.form(), this.machine()];
    if (!form || !machine || !this.maySend(form)) return;
    this.edit.send(
      (version) =>
        this.api.call("updateMachine", { params: { id: machine.id }, body: { ...form.getRawValue(), version } }),
      () => {
        this.notices.say("Machine kept.");
        this.loaded.again();
      },
    );
  }

  protected takeTheirs(): void {
    this.edit.leave();
    this.loaded.again();
  }

  protected kindText(kind: Machine["kind"]): string {
    return MACHINE_KIND_TEXT[kind];
  }

  protected addAxis(): void {
    const machine = this.machine();
    if (!machine) return;
    const taken = new Set(machine.axes.map((a) => a.config.letter));
    const letter = ["X", "Y", "Z", "U", "V", "W", "A"].find((l) => !taken.has(l)) ?? "B";
    const onward = this.onward.fromHere();
    this.api
      .call("createAxis", {
        params: { id: machine.id },
        body: {
          config: defaultAxis(machine.kind, letter),
        },
      })
      .subscribe({
        next: (axis) => onward(`/machines/${machine.id}/axes/${axis.id}/setup`),
        error: this.notices.error,
      });
  }

  protected duplicate(): void {
    const machine = this.machine();
    if (!machine) return;
    const onward = this.onward.fromHere();
    this.api.call("duplicateMachine", { params: { id: machine.id } }).subscribe({
      next: (copy) => {
        this.notices.say(`${copy.nickname} added. Give it its own nickname and bay.`);
        onward(`/machines/${copy.id}`);
      },
      error: this.notices.error,
    });
  }

  protected retire(): void {
    const machine = this.machine();
    if (!machine) return;
    const retiring = machine.retiredAt === null;
    const request = retiring
      ? this.api.call("retireMachine", { params: { id: machine.id } })
      : this.api.call("reviveMachine", { params: { id: machine.id } });
    request.subscribe({
      next: () => {
        this.loaded.again();
        this.notices.say(
          retiring ? `${machine.nickname} is retired; its records stay.` : `${machine.nickname} is back on the floor.`,
          retiring ? () => this.retire() : undefined,
        );
      },
      error: this.notices.error,
    });
  }
}
