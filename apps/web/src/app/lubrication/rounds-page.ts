import { CdkDrag, CdkDropList, CdkDropListGroup } from "@angular/cdk/drag-drop";
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { Tooltip } from "primeng/tooltip";
import { fromEvent, merge } from "rxjs";
import { bringList, type FoundState } from "@iron/core";
import { type LubricationPointRecord, type Rounds } from "@iron/contract";
import { newKey } from "../data/new-key";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Preferences } from "../data/preferences";
import { problemFrom, saidIn } from "../data/problems";
import { datesInText, dayText } from "../shared/times.text";
import { PhotoQueue, type PhotoTaken } from "../job/photo-queue";
import { BringList } from "./bring-list";
import { ComingDays } from "./coming-days";
import { NotToday, type HandMove } from "./not-today";
import { RoundsNav } from "./rounds-nav";
import { bringText, dueSentence, goneFrom, visitOf, walkOf, firstText, jobSizeText, riskText } from "./rounds.view";
import { RefusedVisits } from "./refused-visits";
import { VisitQueue } from "./visit-queue";
import { Trouble } from "../shared/trouble";
import { FoundForm, type FoundVisit } from "./found-form";
import { LoadingLines } from "../shared/loading";
import { OrderWhat } from "./order-what";
import { May } from "../shared/may";
import { Changes } from "../data/changes";
import { Onward } from "../data/onward";
import { NotYours } from "../shared/not-yours";
import { Single } from "../shared/single";

/** So many points are named although there is not time for them. */
const FEW = 12;

/** Rounds: the coming days as bars, and one day’s walk point by point with five large keys. */
@Component({
  selector: "ip-rounds",
  imports: [
    NotYours,
    May,
    Single,
    RefusedVisits,
    BringList,
    ButtonDirective,
    CdkDrag,
    CdkDropList,
    CdkDropListGroup,
    ComingDays,
    FoundForm,
    LoadingLines,
    NotToday,
    OrderWhat,
    RoundsNav,
    RouterLink,
    Tooltip,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./rounds-page.html",
  styleUrl: "./rounds.css",
})
export class RoundsPage {
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  protected readonly jobSize = jobSizeText;
  protected readonly queue = inject(VisitQueue);
  protected readonly photos = inject(PhotoQueue);
  protected readonly visitOf = visitOf;
  protected readonly due = dueSentence;
  protected readonly rounds = signal<Rounds | null>(null);
  protected readonly error = signal("");
  protected readonly picked = signal<string | null>(null);
  protected readonly busy = signal(false);
  protected readonly holdError = signal("");
  /** What this walk has found, so that a wrong key can be taken back. */
  protected readonly walked = signal<
    readonly { readonly point: LubricationPointRecord; readonly found: FoundState; readonly key: string }[]
  >([]);
  /** Points that want more than grease, as they were found on this walk. */
  protected readonly asking = signal<readonly LubricationPointRecord[]>([]);
  protected readonly openDays = computed(() =>
    (this.rounds()?.days ?? [])
      .filter((d) => d.available > 0)
      .map((d) => ({ id: d.date, label: dayText(`${d.date}T12:00:00`) })),
  );
  protected readonly date = computed(() => {
    const rounds = this.rounds();
    const first = rounds?.days.find((d) => d.stops.length > 0);
    return this.picked() ?? first?.date ?? "";
  });
  /** Points that somebody else has done or moved since this walk began: nobody does one twice. */
  private readonly others = signal<ReadonlySet<number>>(new Set());
  /** Their places, to be told. */
  protected readonly passed = signal<readonly string[]>([]);
  /** The point under the eye, should it be one of them. */
  protected readonly doneMeanwhile = signal<number | null>(null);
  /** Points whose visit was not taken: they come last, so that no other point slips under the thumb. */
  private readonly again = signal<ReadonlySet<number>>(new Set());
  protected readonly walk = computed(() => {
    const rounds = this.rounds();
    const done = new Set([...this.walked().map((w) => w.point.id), ...this.others()]);
    const again = this.again();
    const left = rounds ? walkOf(rounds, this.date()).filter((w) => !done.has(w.point.id)) : [];
    return [...left.filter((w) => !again.has(w.point.id)), ...left.filter((w) => again.has(w.point.id))];
  });
  /** Why these come first, where there is not time for all. */
  protected readonly whyFirst = computed(() => {
    const rounds = this.rounds();
    return rounds ? firstText(rounds, this.date()) : "";
  });
  /** What comes after the point under the thumb: where there is not time for all, what comes first and a little more. */
  protected readonly then = computed(() => {
    const rest = this.walk().slice(1);
    const first = this.rounds()?.days.find((d) => d.date === this.date())?.first.length ?? 0;
    return first ? rest.slice(0, Math.max(first, FEW)) : rest;
  });
  protected readonly risk = riskText;
  protected readonly now = computed(() => this.walk().at(0) ?? null);
  private readonly nowId = computed(() => this.now()?.point.id ?? 0);
  /** What the round takes: where there is not time for all, what comes first. */
  private readonly taken = computed(() => {
    const day = this.rounds()?.days.find((d) => d.date === this.date());
    const first = new Set(day?.first);
    const all = (day?.stops ?? []).flatMap((s) => s.points);
    return first.size ? all.filter((p) => first.has(p.id)) : all;
  });
  /** Of the whole round, also while it is walked: what is ticked stays on the list. */
  protected readonly toBring = computed(() => bringList(this.taken(), this.rounds()?.gramsPerStroke ?? 0));
  protected readonly bring = computed(() => bringText(this.taken()));
  protected readonly waits = computed(() => {
    const count = this.queue.waiting().length;
    if (!count || !this.queue.offline()) return "";
    const those = count === 1 ? "1 visit is" : `${count} visits are`;
    return `No connection. ${those} kept in this browser and sent when the server answers.`;
  });
  protected readonly heading = computed(() => {
    const rounds = this.rounds();
    if (!rounds) return "Rounds";
    if (rounds.points === 0) return "No lubrication point yet";
    if (!rounds.late) return "Nothing is late";
    // Said by name: what stands below may be another one, since the way decides.
    const which = this.walk().find((one) => one.point.lateDays >= 1)?.point.place;
    if (rounds.late === 1) return which === undefined ? "1 point is late" : `1 point is late: ${which}`;
    return `${rounds.late} points are late`;
  });

  constructor() {
    this.load();
    void this.photos.recall();
    merge(inject(Changes).of(), fromEvent(document, "visibilitychange"))
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.look());
    effect(() => {
      const refused = this.photos.refused();
      if (refused) untracked(() => this.notices.say(`${refused.photo.caption}: ${refused.message}`));
    });
    effect(() => {
      const taken = this.queue.taken();
      if (taken) untracked(() => this.hear(taken));
    });
    effect(() => {
      const refused = this.queue.refused();
      const keys = new Set(refused.map((r) => r.visit.key));
      untracked(() => this.again.update((all) => new Set([...all, ...refused.map((r) => r.pointId)])));
      untracked(() => this.walked.update((w) => w.filter((one) => !keys.has(one.key))));
    });
    effect(() => {
      this.nowId();
      untracked(() => this.holdError.set(""));
    });
  }

  protected load(): void {
    this.error.set("");
    this.api.call("rounds").subscribe({
      next: (rounds) => this.show(rounds),
      error: saidIn(this.error),
    });
  }

  /** Looks what others have done meanwhile; a page nobody sees, or with visits under way, waits. */
  private look(): void {
    if (document.hidden || this.busy() || this.queue.waiting().length || !this.rounds()) return;
    this.api.call("rounds").subscribe({
      next: (fresh) => this.passOver(goneFrom(this.walk(), fresh, this.date())),
      error: () => undefined,
    });
  }

  private passOver(gone: readonly LubricationPointRecord[]): void {
    const here = this.now()?.point.id;
    // What is under the thumb is not taken away: it is said there.
    if (gone.some((p) => p.id === here)) this.doneMeanwhile.set(here ?? null);
    const rest = gone.filter((p) => p.id !== here);
    if (rest.length === 0) return;
    this.others.update((all) => new Set([...all, ...rest.map((p) => p.id)]));
    this.passed.update((all) => [...all, ...rest.map((p) => p.place)]);
  }

  protected goOn(): void {
    const here = this.now()?.point;
    if (!here) return;
    this.doneMeanwhile.set(null);
    this.others.update((all) => new Set([...all, here.id]));
    this.passed.update((all) => [...all, here.place]);
  }

  protected afresh(): void {
    this.api.call("planRounds").subscribe({
      next: (rounds) => this.show(rounds),
      error: this.notices.error,
    });
  }

  private show(rounds: Rounds): void {
    this.rounds.set(rounds);
    this.walked.set([]);
    this.others.set(new Set());
    this.passed.set([]);
    this.doneMeanwhile.set(null);
  }

  protected found(point: LubricationPointRecord, visit: FoundVisit): void {
    const key = newKey();
    this.walked.update((w) => [...w, { point, found: visit.found, key }]);
    this.queue.add({ pointId: point.id, place: point.place, visit: { key, ...visit }, by: this.preferences.who() });
  }

  protected takeBack(): void {
    const last = this.walked().at(-1);
    if (!last) return;
    this.walked.update((w) => w.slice(0, -1));
    this.asking.update((all) => all.filter((p) => p.id !== last.point.id));
    const visit = { key: newKey(), takesBack: last.key, found: null, dose: 0, glitter: false, words: "" };
    this.queue.add({ pointId: last.point.id, place: last.point.place, visit, by: this.preferences.who() });
  }

  private hear(point: LubricationPointRecord): void {
    if (!point.asksCase || !this.walked().some((w) => w.point.id === point.id)) return;
    this.asking.update((all) => [...all.filter((p) => p.id !== point.id), point]);
  }

  /** Photos wait like visits; a point’s page shows them. */
  protected photo(point: LubricationPointRecord, taken: PhotoTaken): void {
    this.notices.say(`${this.photos.takeOf(point, taken)}: photo taken; it goes to the point.`);
  }

  /** A point dragged onto a day is put there. */
  protected drop({ pointId, date }: { readonly pointId: number; readonly date: string }): void {
    const point = this.walk().find((w) => w.point.id === pointId)?.point;
    if (point) this.hold(point, { kind: "pin", date, reason: "" });
  }

  /** A nut that has to be parted is greased in a job of its own. */
  protected openJob(point: LubricationPointRecord): void {
    const onward = this.onward.fromHere();
    this.api.call("jobFromPoint", { params: { id: point.id } }).subscribe({
      next: ({ jobId }) => onward(`/jobs/${jobId}`),
      error: this.notices.error,
    });
  }

  protected openCase(point: LubricationPointRecord): void {
    const onward = this.onward.fromHere();
    this.api.call("caseFromPoint", { params: { id: point.id } }).subscribe({
      next: ({ machineId, axisId }) => onward(`/machines/${machineId}/axes/${axisId}/ask`),
      error: this.notices.error,
    });
  }

  protected hold(point: LubricationPointRecord, move: HandMove): void {
    this.busy.set(true);
    this.holdError.set("");
    const body = { key: newKey(), ...move };
    this.api.call("holdPoint", { params: { id: point.id }, body }).subscribe({
      next: (rounds) => {
        this.busy.set(false);
        const walked = this.walked();
        this.show(rounds);
        this.walked.set(walked);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.holdError.set(datesInText(problemFrom(error).detail));
      },
    });
  }
}
