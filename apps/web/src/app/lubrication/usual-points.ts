import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { takeUntilDestroyed, toObservable } from "@angular/core/rxjs-interop";
import { RouterLink } from "@angular/router";
import type { LubricationPointRecord, MachineWithAxes, UsualPoint, UsualPointsInput } from "@iron/contract";
import {
  FACTOR_IDS,
  FACTORS,
  usualSetUp,
  type CARRIAGE_WAYS,
  type CENTRALS,
  type FactorId,
  type LubricationSetUp,
  type NUT_WAYS,
} from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { TableModule } from "primeng/table";
import { catchError, debounceTime, EMPTY, forkJoin, switchMap } from "rxjs";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Onward } from "../data/onward";
import { saidIn } from "../data/problems";
import { DayField } from "../shared/day-field";
import { ChoiceField, type Choice } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { RowOf } from "../shared/row-of";
import { RowsPipe } from "../shared/rows.pipe";
import { TickBox } from "../shared/tick-box";
import { dayText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { May } from "../shared/may";

/** How long one may go on choosing before the points are made anew, ms. */
const SETTLED_MS = 150;

/** A ball nut on any of its axes. */
const BALL: readonly string[] = ["direct", "belt", "rotating-nut"];

/** The usual points of a machine: how it is lubricated, what surrounds it, when it was last seen to, and what follows. */
@Component({
  selector: "ip-usual-points",
  imports: [
    May,
    ButtonDirective,
    ChoiceField,
    DayField,
    LoadingLines,
    RouterLink,
    RowOf,
    RowsPipe,
    TableModule,
    TickBox,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  templateUrl: "./usual-points.html",
})
export class UsualPointsPage {
  readonly machineId = input.required<string>();
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly notices = inject(Notices);
  protected readonly dayText = dayText;
  protected readonly centrals: readonly Choice<(typeof CENTRALS)[number]>[] = [
    { id: "none", label: "none" },
    { id: "ways", label: "feeds the ways" },
    { id: "ways-and-nuts", label: "feeds ways and ball nuts" },
  ];
  protected readonly carriages: readonly Choice<(typeof CARRIAGE_WAYS)[number]>[] = [
    { id: "nipple", label: "with a nipple each" },
    { id: "none", label: "without: the rails are oiled" },
  ];
  protected readonly nuts: readonly Choice<(typeof NUT_WAYS)[number]>[] = [
    { id: "nipple", label: "by a nipple" },
    { id: "needle", label: "by needle, through a hole" },
    { id: "bead", label: "as a bead along the screw" },
    { id: "parted", label: "only with the nut parted" },
  ];
  protected readonly lasts: readonly Choice<boolean>[] = [
    { id: false, label: "not known: due now" },
    { id: true, label: "on a day that is known" },
  ];
  protected readonly factorList = FACTOR_IDS.map((id) => ({ id, ...FACTORS[id] }));
  protected readonly machine = signal<MachineWithAxes | null>(null);
  protected readonly error = signal("");
  /** What the server would not have, in its words. */
  protected readonly refused = signal("");
  protected readonly sending = signal(false);
  protected readonly setUp = signal<LubricationSetUp>({
    central: "none",
    carriages: "nipple",
    nuts: "nipple",
    board: false,
  });
  protected readonly factors = signal<readonly FactorId[]>([]);
  protected readonly known = signal(false);
  protected readonly lastDone = signal("");
  protected readonly leaveOut = signal<readonly string[]>([]);
  protected readonly rows = signal<readonly UsualPoint[]>([]);
  private readonly configs = computed(() => {
    const axes = this.machine()?.axes ?? [];
    return axes.filter((a) => !a.retiredAt).map((a) => a.config);
  });
  protected readonly bare = computed(() => this.machine() !== null && this.configs().length === 0);
  protected readonly hasRails = computed(() => this.configs().some((a) => a.guideway === "rail"));
  protected readonly hasBallNuts = computed(() => this.configs().some((a) => BALL.includes(a.transmission)));
  protected readonly wanted = computed(() =>
    this.rows().filter((row) => !row.there && !this.leaveOut().includes(row.place)),
  );
  protected readonly heading = computed(() => {
    const n = this.wanted().length;
    if (this.rows().length === 0) return "No point yet";
    if (n === 0) return "Nothing to add";
    const minutes = this.wanted().reduce((sum, row) => sum + (row.partsNut ? 0 : row.minutes), 0);
    return `${n} ${n === 1 ? "point" : "points"}, ${Math.round(minutes)} minutes for all of them once`;
  });
  protected readonly keepText = computed(() => {
    const n = this.wanted().length;
    return n === 1 ? "Add this point" : `Add these ${n} points`;
  });
  /** What the points are made from; null while the machine is not there, or the day is still to be named. */
  private readonly asked = computed<UsualPointsInput | null>(() => {
    if (!this.machine() || (this.known() && !this.lastDone())) return null;
    return {
      setUp: this.setUp(),
      factors: this.factors(),
      lastDone: this.known() ? this.lastDone() : null,
    };
  });

  constructor() {
    effect(() => {
      this.machineId();
      untracked(() => this.load());
    });
    toObservable(this.asked)
      .pipe(
        debounceTime(SETTLED_MS),
        switchMap((body) =>
          body === null
            ? EMPTY
            : this.api.call("usualPreview", { params: { id: this.machineId() }, body }).pipe(
                catchError((problem: unknown) => {
                  saidIn(this.refused)(problem);
                  return EMPTY;
                }),
              ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => {
        this.refused.set("");
        this.rows.set(rows);
      });
  }

  protected load(): void {
    this.error.set("");
    this.api.call("machine", { params: { id: this.machineId() } }).subscribe({
      next: (machine) => {
        this.machine.set(machine);
        this.setUp.set(usualSetUp(machine.kind, this.configs()));
      },
      error: saidIn(this.error),
    });
  }

  protected set(change: Partial<LubricationSetUp>): void {
    this.setUp.update((now) => ({ ...now, ...change }));
  }

  protected pick(id: FactorId, on: boolean): void {
    this.factors.update((all) => (on ? [...all, id] : all.filter((f) => f !== id)));
  }

  protected want(place: string, on: boolean): void {
    this.leaveOut.update((all) => (on ? all.filter((p) => p !== place) : [...all, place]));
  }

  /** What an interval is, and what it would be without what surrounds the machine. */
  protected everyText({ intervalDays, plainDays, by }: UsualPoint): string {
    const days = intervalDays === 1 ? "day" : `${intervalDays} days`;
    return `${days} by ${by}${plainDays === intervalDays ? "" : ` (else ${plainDays})`}`;
  }

  protected keep(): void {
    const body = this.asked();
    const machine = this.machine();
    if (!body || !machine) return;
    const onward = this.onward.fromHere();
    this.sending.set(true);
    this.api
      .call("usualPoints", { params: { id: machine.id }, body: { ...body, leaveOut: this.leaveOut() as string[] } })
      .subscribe({
        next: (made) => {
          this.sending.set(false);
          const points = made.length === 1 ? "1 point is" : `${made.length} points are`;
          if (made.length) this.notices.say(`${points} kept for ${machine.nickname}.`, () => this.takeBack(made));
          else this.notices.say(`${machine.nickname} has these points already: somebody else has added them.`);
          const [axis] = machine.axes.filter((a) => !a.retiredAt);
          onward(axis ? `/machines/${machine.id}/axes/${axis.id}/keep` : "/rounds");
        },
        error: (problem: unknown) => {
          this.sending.set(false);
          saidIn(this.refused)(problem);
        },
      });
  }

  private takeBack(points: readonly LubricationPointRecord[]): void {
    const all = points.map((p) => this.api.call("retirePoint", { params: { id: p.id }, body: { retired: true } }));
    forkJoin(all).subscribe({
      next: () => this.notices.say("Taken back: none of them is kept."),
      error: this.notices.error,
    });
  }
}
