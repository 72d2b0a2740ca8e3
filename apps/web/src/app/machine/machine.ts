import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from "@angular/core";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { chainOf, defaultAxis, formatSize, MACHINE_KIND_WORDS } from "@iron/core";
import type { Machine, MachineEdit, MachineWithAxes } from "@iron/contract";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { MachineForm, machineErrors } from "./machine-form";

const SAID: readonly SaidField<MachineEdit>[] = [
  { label: "Nickname", words: (m) => m.nickname },
  { label: "Bay", words: (m) => m.bay },
  { label: "Kind", words: (m) => MACHINE_KIND_WORDS[m.kind] },
  { label: "Hours a week", words: (m) => String(m.hoursPerWeek) },
  { label: "Note", words: (m) => m.note },
];

@Component({
  selector: "ip-machine",
  imports: [ButtonDirective, BothVersions, MachineForm, RouterLink],
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
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly preferences = inject(Preferences);
  protected readonly machine = signal<MachineWithAxes | null>(null);
  protected readonly wrong = signal("");
  protected readonly saving = signal(false);
  protected readonly theirs = signal<Machine | null>(null);
  protected readonly draft = linkedSignal<MachineEdit | null>(() => {
    const machine = this.machine();
    return machine ? editOf(machine) : null;
  });
  protected readonly changed = computed(() => {
    const machine = this.machine();
    return !!machine && JSON.stringify(editOf(machine)) !== JSON.stringify(this.draft());
  });
  protected readonly axes = computed(() =>
    (this.machine()?.axes ?? []).map((a) => ({
      id: a.id,
      letter: a.config.letter,
      retired: a.retiredAt !== null,
      words: `${chainOf(a.config)
        .map((l) => l.name.toLowerCase())
        .join(" → ")}; ${formatSize(a.config.travelMm, this.preferences.system())} travel`,
    })),
  );

  constructor() {
    effect(() => {
      const id = Number(this.machineId());
      untracked(() => this.load(id));
    });
  }

  protected load(id: number): void {
    this.wrong.set("");
    this.api.call("machine", { params: { id } }).subscribe({
      next: (machine) => this.machine.set(machine),
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }

  /** Where the two versions differ. */
  protected readonly conflicts = computed(() => {
    const [mine, theirs] = [this.draft(), this.theirs()];
    return mine && theirs ? differing<MachineEdit>(mine, theirs, SAID) : [];
  });

  protected save(version = this.machine()?.version): void {
    const draft = this.draft();
    const machine = this.machine();
    if (!draft || !machine || version === undefined || machineErrors(draft).size > 0 || this.saving()) return;
    this.saving.set(true);
    this.api.call("updateMachine", { params: { id: machine.id }, body: { ...draft, version } }).subscribe({
      next: () => {
        this.saving.set(false);
        this.theirs.set(null);
        this.notices.say("Machine kept.");
        this.load(machine.id);
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        this.saving.set(false);
        this.wrong.set(problem.detail);
        if (problem.status === 409) this.theirs.set(problem.current as Machine);
      },
    });
  }

  protected takeTheirs(): void {
    const machine = this.machine();
    this.theirs.set(null);
    if (machine) this.load(machine.id);
  }

  protected kindWords(kind: Machine["kind"]): string {
    return MACHINE_KIND_WORDS[kind];
  }

  protected addAxis(): void {
    const machine = this.machine();
    if (!machine) return;
    const taken = new Set(machine.axes.map((a) => a.config.letter));
    const letter = ["X", "Y", "Z", "U", "V", "W", "A"].find((l) => !taken.has(l)) ?? "B";
    this.api
      .call("createAxis", {
        params: { id: machine.id },
        body: {
          config: defaultAxis(machine.kind, letter),
        },
      })
      .subscribe({
        next: (axis) => void this.router.navigate(["/machines", machine.id, "axes", axis.id, "setup"]),
        error: (error: unknown) => this.notices.wrong(error),
      });
  }

  protected duplicate(): void {
    const machine = this.machine();
    if (!machine) return;
    this.api.call("duplicateMachine", { params: { id: machine.id } }).subscribe({
      next: (copy) => {
        this.notices.say(`${copy.nickname} added. Give it its own nickname and bay.`);
        void this.router.navigate(["/machines", copy.id]);
      },
      error: (error: unknown) => this.notices.wrong(error),
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
        this.load(machine.id);
        this.notices.say(
          retiring ? `${machine.nickname} is retired; its records stay.` : `${machine.nickname} is back on the floor.`,
          retiring ? () => this.retire() : undefined,
        );
      },
      error: (error: unknown) => this.notices.wrong(error),
    });
  }
}

function editOf(machine: MachineEdit): MachineEdit {
  const { nickname, bay, kind, hoursPerWeek, note } = machine;
  return { nickname, bay, kind, hoursPerWeek, note };
}
