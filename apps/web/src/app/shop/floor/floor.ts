import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { takeUntilDestroyed, toSignal } from "@angular/core/rxjs-interop";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { MACHINE_KIND_WORDS } from "@iron/core";
import type { Floor } from "@iron/contract";
import { catchError, map, of, startWith, Subject, switchMap } from "rxjs";
import { Api } from "../../data/api";
import { Notices } from "../../data/notices";
import { Preferences } from "../../data/preferences";
import { problemFrom } from "../../data/problems";
import { Keys } from "../../shared/keys";
import { StateMark } from "../../shared/state-mark";
import { dayWords } from "../../shared/words";
import { backupAlarm } from "../../shared/backup-words";
import { floorView } from "./floor.view";
import { Trouble } from "../../shared/trouble";

interface Loaded {
  readonly floor: Floor | null;
  readonly wrong: string;
}

@Component({
  selector: "ip-floor",
  imports: [ButtonDirective, RouterLink, StateMark, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./floor.html",
  styleUrl: "./floor.css",
})
export class FloorPlace {
  /** Search, from the address. */
  readonly q = input<string | undefined>();
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  protected readonly reload = new Subject<void>();
  protected readonly today = dayWords(new Date().toISOString());
  protected readonly loaded = toSignal(
    this.reload.pipe(
      startWith(undefined),
      switchMap(() =>
        this.api.call("floor").pipe(
          map((floor): Loaded => ({ floor, wrong: "" })),
          catchError((error: unknown) => of<Loaded>({ floor: null, wrong: problemFrom(error).detail })),
        ),
      ),
      takeUntilDestroyed(),
    ),
    { initialValue: null },
  );
  protected readonly view = computed(() => {
    const floor = this.loaded()?.floor;
    return floor ? floorView(floor, MACHINE_KIND_WORDS, this.preferences.system(), this.q() ?? "") : null;
  });
  protected readonly retired = computed(() => this.loaded()?.floor?.retired ?? []);
  protected readonly alarm = computed(() => backupAlarm(this.loaded()?.floor?.backup ?? null, new Date()));
  protected readonly unit = computed(() => (this.preferences.system() === "metric" ? "µm" : "tenths"));
  protected readonly ghosts = Array.from({ length: 8 }, (_, i) => i);

  constructor() {
    inject(Keys).use({
      key: "n",
      shown: "N",
      does: "Add a machine",
      act: () => void this.router.navigate(["/machines/new"]),
    });
  }

  protected revive(id: number): void {
    this.api.call("reviveMachine", { params: { id } }).subscribe({
      next: (machine) => {
        this.notices.say(`${machine.nickname} is back on the floor.`);
        this.reload.next();
      },
      error: (error: unknown) => this.notices.wrong(error),
    });
  }
}
