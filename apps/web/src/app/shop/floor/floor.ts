import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  Injector,
  input,
  linkedSignal,
} from "@angular/core";
import { takeUntilDestroyed, toSignal } from "@angular/core/rxjs-interop";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { MACHINE_KIND_TEXT } from "@iron/core";
import type { Floor } from "@iron/contract";
import { catchError, map, merge, of, scan, startWith, Subject, switchMap } from "rxjs";
import { Api } from "../../data/api";
import { Notices } from "../../data/notices";
import { Preferences } from "../../data/preferences";
import { problemFrom } from "../../data/problems";
import { Keys } from "../../shared/keys";
import { StateMark } from "../../shared/state-mark";
import { dayText } from "../../shared/times.text";
import { backupAlarm } from "../../shared/backup.text";
import { ChoiceField, type Choice } from "../../shared/fields";
import { floorChoices, floorView, type FloorFilter, type FloorStanding } from "./floor.view";
import { Trouble } from "../../shared/trouble";
import { May } from "../../shared/may";
import { Changes } from "../../data/changes";

/** From so many machines on the floor can be narrowed; fewer are seen at a glance. */
const FEW = 16;
const FIRST_ROWS = 20;
const MORE_ROWS = 60;
const STATES: readonly Choice<FloorStanding>[] = [
  { id: "act", label: "over the limit" },
  { id: "watch", label: "to be watched" },
  { id: "cannot-tell", label: "cannot tell" },
  { id: "never", label: "never measured" },
  { id: "sound", label: "sound" },
];

interface Loaded {
  readonly floor: Floor | null;
  readonly error: string;
}

@Component({
  selector: "ip-floor",
  imports: [May, ChoiceField, ButtonDirective, RouterLink, StateMark, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./floor.html",
  styleUrl: "./floor.css",
})
export class FloorPlace {
  /** Search, from the address. */
  readonly q = input<string | undefined>();
  readonly bay = input<string | undefined>();
  readonly kind = input<string | undefined>();
  readonly state = input<string | undefined>();
  protected readonly preferences = inject(Preferences);
  private readonly injector = inject(Injector);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  protected readonly reload = new Subject<void>();
  protected readonly today = dayText(new Date().toISOString());
  protected readonly loaded = toSignal(
    merge(this.reload, inject(Changes).of()).pipe(
      startWith(undefined),
      switchMap(() =>
        this.api.call("floor").pipe(
          map((floor): Loaded => ({ floor, error: "" })),
          catchError((error: unknown) => of<Loaded>({ floor: null, error: problemFrom(error).detail })),
        ),
      ),
      // What is shown stays when a look in passing fails.
      scan((before, now) => (now.floor || !before.floor ? now : { ...before, error: "" })),
      takeUntilDestroyed(),
    ),
    { initialValue: null },
  );
  private readonly filter = computed<FloorFilter>(() => ({
    q: this.q() ?? "",
    bay: this.bay() ?? "",
    kind: this.kind() ?? "",
    state: STATES.find((s) => s.id === this.state())?.id ?? "",
  }));
  protected readonly view = computed(() => {
    const floor = this.loaded()?.floor;
    return floor
      ? floorView(floor, { kindText: MACHINE_KIND_TEXT, system: this.preferences.system(), filter: this.filter() })
      : null;
  });
  protected readonly narrowed = computed(() => Object.values(this.filter()).some(Boolean));
  protected readonly choices = computed(() => {
    const floor = this.loaded()?.floor;
    if (!floor || floor.machines.length < FEW) return null;
    const { bays, kinds } = floorChoices(floor);
    return {
      bays: bays.map((id) => ({ id, label: `bay ${id}` })),
      kinds: kinds.map((id): Choice => ({ id, label: MACHINE_KIND_TEXT[id] })),
      states: STATES,
    };
  });
  /** Rows that are drawn: the first at once, the others after what is in sight has been painted. */
  private readonly drawn = linkedSignal<unknown, number>({ source: this.view, computation: () => FIRST_ROWS });
  protected readonly rows = computed(() => this.view()?.machines.slice(0, this.drawn()) ?? []);
  protected readonly retired = computed(() => this.loaded()?.floor?.retired ?? []);
  protected readonly alarm = computed(() => backupAlarm(this.loaded()?.floor?.backup ?? null, new Date()));
  protected readonly unit = computed(() => (this.preferences.system() === "metric" ? "µm" : "tenths"));
  protected readonly ghosts = Array.from({ length: 8 }, (_, i) => i);

  constructor() {
    effect(() => {
      const more = (this.view()?.machines.length ?? 0) > this.drawn();
      if (more)
        afterNextRender(() => setTimeout(() => this.drawn.update((n) => n + MORE_ROWS)), { injector: this.injector });
    });
    inject(Keys).use({
      key: "n",
      shown: "N",
      does: "Add a machine",
      needs: "createMachine",
      press: () => void this.router.navigate(["/machines/new"]),
    });
  }

  /** In the address, so that it can be sent to somebody and gone back to. */
  protected narrow(to: Partial<FloorFilter>): void {
    const queryParams = Object.fromEntries(Object.entries(to).map(([key, value]) => [key, value || null]));
    void this.router.navigate([], { queryParams, queryParamsHandling: "merge", replaceUrl: true });
  }

  protected revive(id: number): void {
    this.api.call("reviveMachine", { params: { id } }).subscribe({
      next: (machine) => {
        this.notices.say(`${machine.nickname} is back on the floor.`);
        this.reload.next();
      },
      error: this.notices.error,
    });
  }
}
