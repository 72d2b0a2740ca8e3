import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { LubricationPointRecord, LubricantRecord, Machine } from "@iron/contract";
import { newKey } from "../data/new-key";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { VersionedSave } from "../data/versioned-save";
import { saidIn } from "../data/problems";
import { PointForm, type LubricationPointEdit } from "./point-form";
import { FoundForm, type FoundVisit } from "./found-form";
import { PhotoQueue, type PhotoTaken } from "../job/photo-queue";
import { momentText } from "../shared/times.text";
import { dueSentence, emptyPoint, pointEdit, visitOf, jobSizeText } from "./rounds.view";
import { RefusedVisits } from "./refused-visits";
import { VisitQueue } from "./visit-queue";
import { Trouble } from "../shared/trouble";
import { DayField } from "../shared/day-field";
import { LoadingLines } from "../shared/loading";
import { OrderWhat } from "./order-what";
import { May } from "../shared/may";

/** One lubrication point: what its label opens. Visit it, change it, keep it no more. */
@Component({
  selector: "ip-point",
  imports: [
    May,
    RefusedVisits,
    ButtonDirective,
    DayField,
    FoundForm,
    LoadingLines,
    OrderWhat,
    PointForm,
    RouterLink,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  templateUrl: "./point-page.html",
})
export class PointPage {
  readonly pointId = input.required<string>();
  /** Machine of a point that is made new. */
  readonly machine = input<string>();
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  protected readonly dueSentence = dueSentence;
  protected readonly jobSize = jobSizeText;
  protected readonly queue = inject(VisitQueue);
  protected readonly photos = inject(PhotoQueue);
  protected readonly moment = momentText;
  protected readonly point = signal<LubricationPointRecord | null>(null);
  protected readonly machineOf = signal<Machine | null>(null);
  protected readonly lubricants = signal<readonly LubricantRecord[]>([]);
  protected readonly error = signal("");
  protected readonly editing = signal(false);
  /** Day a new point was last seen to, where it is known. */
  protected readonly lastDone = signal("");
  protected readonly edit = new VersionedSave<LubricationPointRecord>();
  /** What the form begins from. */
  protected readonly start = computed(() => {
    const point = this.point();
    return point ? pointEdit(point) : emptyPoint();
  });
  /** What is done there, in its order. */
  protected readonly visit = computed(() => {
    const point = this.point();
    return point ? visitOf(point) : { state: "", steps: [] };
  });
  protected readonly isNew = computed(() => this.pointId() === "new");
  constructor() {
    effect(() => {
      this.pointId();
      untracked(() => this.load());
    });
    effect(() => {
      const taken = this.queue.taken();
      if (taken && String(taken.id) === this.pointId()) untracked(() => this.point.set(taken));
    });
    effect(() => {
      const now = this.photos.taken();
      if (now && "place" in now && String(now.id) === this.pointId()) untracked(() => this.point.set(now));
    });
    effect(() => {
      const refused = this.photos.refused();
      if (refused) untracked(() => this.notices.say(refused.message));
    });
    this.api.call("lubricants").subscribe({
      next: (list) => this.lubricants.set(list),
      error: () => undefined,
    });
  }

  protected load(): void {
    this.error.set("");
    if (this.isNew()) {
      this.point.set(null);
      this.editing.set(true);
      this.loadMachine(Number(this.machine()));
      return;
    }
    const before = [this.queue.taken(), this.photos.taken()];
    this.api.call("lubricationPoint", { params: { id: this.pointId() } }).subscribe({
      next: (point) => {
        // A visit or photo that was taken meanwhile was answered with the point as it is since: this may be older.
        const after = [this.queue.taken(), this.photos.taken()];
        const newer = after.some((one, i) => one !== before[i] && one?.id === point.id);
        if (!newer) this.point.set(point);
        this.loadMachine(point.machineId);
      },
      error: saidIn(this.error),
    });
  }

  private loadMachine(id: number): void {
    this.api.call("machine", { params: { id } }).subscribe({
      next: (machine) => this.machineOf.set(machine),
      error: saidIn(this.error),
    });
  }

  protected found(point: LubricationPointRecord, visit: FoundVisit): void {
    const key = newKey();
    this.queue.add({ pointId: point.id, place: point.place, by: this.preferences.who(), visit: { key, ...visit } });
    const undo = (): void =>
      this.queue.add({
        pointId: point.id,
        place: point.place,
        by: this.preferences.who(),
        // Should it have been refused, nobody else’s is taken back instead.
        visit: { key: newKey(), takesBack: key, found: null, dose: 0, glitter: false, words: "" },
      });
    this.notices.say(`${point.place}: ${visit.found}.`, undo);
  }

  protected photo(point: LubricationPointRecord, taken: PhotoTaken): void {
    this.photos.takeOf(point, taken);
  }

  protected change(point: LubricationPointRecord): void {
    if (this.editing()) {
      this.leave();
      return;
    }
    this.edit.begin(point);
    this.editing.set(true);
  }

  protected leave(): void {
    this.editing.set(false);
    this.edit.leave();
  }

  protected keep(body: LubricationPointEdit): void {
    const machine = this.machineOf();
    if (!machine) return;
    const [isNew, onward] = [this.isNew(), this.onward.fromHere()];
    this.edit.send(
      (version) =>
        isNew
          ? this.api.call("createPoint", {
              params: { id: machine.id },
              body: { ...body, lastDone: this.lastDone() || null },
            })
          : this.api.call("updatePoint", { params: { id: this.pointId() }, body: { ...body, version } }),
      (point) => {
        this.leave();
        if (isNew) onward(`/points/${point.id}`);
        else this.point.set(point);
      },
      () => {
        // Beneath the form stands what is kept now.
        const theirs = this.edit.theirs();
        if (theirs) this.point.set(theirs);
      },
    );
  }

  protected retire(retired: boolean): void {
    this.api.call("retirePoint", { params: { id: this.pointId() }, body: { retired } }).subscribe({
      next: (point) => {
        this.point.set(point);
        if (retired) this.notices.say(`${point.place} is kept no more.`, () => this.retire(false));
      },
      error: this.notices.error,
    });
  }

  protected openJob(): void {
    const onward = this.onward.fromHere();
    this.api.call("jobFromPoint", { params: { id: this.pointId() } }).subscribe({
      next: ({ jobId }) => onward(`/jobs/${jobId}`),
      error: this.notices.error,
    });
  }

  protected openCase(): void {
    const onward = this.onward.fromHere();
    this.api.call("caseFromPoint", { params: { id: this.pointId() } }).subscribe({
      next: ({ machineId, axisId }) => onward(`/machines/${machineId}/axes/${axisId}/ask`),
      error: this.notices.error,
    });
  }
}
