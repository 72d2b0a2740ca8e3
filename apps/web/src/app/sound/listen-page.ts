import { NgTemplateOutlet } from "@angular/common";
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from "@angular/core";
import { formatQuantity, formatSize, isGravityAxis, planSeconds, whereNoiseIs, type SoundPlan } from "@iron/core";
import type { Sound } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { Preferences } from "../data/preferences";
import { AxisContext } from "../machine/axis/axis-context";
import { ChoiceField, NumberField, TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { TickBox } from "../shared/tick-box";
import { Trouble } from "../shared/trouble";
import { HearRecordings } from "./hear-recordings";
import { RecordSound } from "./record-sound";
import { SetSoundAside } from "./set-sound-aside";
import { SoundFileField } from "./sound-file";
import { SoundList } from "./sound-list";
import { SoundQueue } from "./sound-queue";
import { SoundSays } from "./sound-says";
import { SoundStore } from "./sound-store";
import { SoundWaiting } from "./sound-waiting";
import { SoundWell } from "./sound-well";
import { beforeRun, besideSaid, NOISE_IS, soundLine, usualRun } from "./sound.view";
import { May } from "../shared/may";

/** Listen to an axis: record it to and fro at one feed, hear what is worked out, hold it beside another. */
@Component({
  selector: "ip-listen",
  imports: [
    May,
    ButtonDirective,
    ChoiceField,
    HearRecordings,
    LoadingLines,
    NgTemplateOutlet,
    NumberField,
    RecordSound,
    SetSoundAside,
    SoundFileField,
    SoundList,
    SoundSays,
    SoundWaiting,
    SoundWell,
    TextField,
    TickBox,
    Trouble,
  ],
  providers: [SoundStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./listen-page.html",
  styleUrls: ["../shared/folds.css", "./listen-page.css"],
})
export class ListenPage {
  protected readonly lies =
    "Telephone or tablet lies fixed outside the moving space, at a place that is found again. It is not held in the hand.";
  protected readonly context = inject(AxisContext);
  protected readonly store = inject(SoundStore);
  protected readonly queue = inject(SoundQueue);
  private readonly preferences = inject(Preferences);
  protected readonly plan = linkedSignal<SoundPlan | null>(() => {
    const axis = this.context.axis();
    if (!axis) return null;
    const plan = usualRun(axis.config, this.preferences.system());
    return this.alone() ? { ...plan, motorAlone: true } : plan;
  });
  protected readonly place = signal("");
  protected readonly records = signal(false);
  /** Of the address: the recording that is looked at. */
  readonly sound = input<string>();
  /** Of the address: the motor is recorded alone. */
  readonly motor = input<string>();
  protected readonly alone = computed(() => this.motor() === "alone");
  protected readonly chosenId = linkedSignal<number | null>(() => Number(this.sound()) || null);
  protected readonly otherId = signal<number | null>(null);
  protected readonly used = computed(() => (this.store.sounds() ?? []).filter((s) => !s.aside));
  /** The newest of those that were there first: what somebody else does later puts no other in its place. */
  private readonly newest = linkedSignal<
    { readonly axis: number | undefined; readonly all: readonly Sound[] },
    number | null
  >({
    source: () => ({ axis: this.context.axis()?.id, all: this.store.sounds() ?? [] }),
    computation: ({ axis, all }, before) =>
      before?.source.axis === axis && all.some((s) => s.id === before?.value)
        ? (before?.value ?? null)
        : (all.find((s) => !s.aside)?.id ?? null),
  });
  protected readonly chosen = computed(
    () =>
      (this.store.sounds() ?? []).find((s) => s.id === (this.chosenId() ?? this.newest())) ?? this.used()[0] ?? null,
  );
  protected readonly under = computed(
    () => [...this.others(), ...this.store.sisters()].find((s) => s.id === this.otherId()) ?? null,
  );
  private readonly others = computed(() => this.used().filter((s) => s.id !== this.chosen()?.id && s.result));
  /** What it can be held beside, of a motor alone before the charts; nothing where nothing could be worked out. */
  protected readonly choices = computed(() => {
    const worked = this.chosen() as Sound | undefined;
    if (!worked?.result) return [];
    const line = (s: Sound): string => soundLine(s, this.preferences.system());
    return [
      ...this.others().map((s) => ({ id: `${s.id}`, label: line(s) })),
      ...this.store.sisters().map((s) => ({ id: `${s.id}`, label: `${s.machine} ${s.letter}, ${line(s)}` })),
    ];
  });
  protected readonly besides = computed(() => {
    const said = this.store.beside();
    const [one, other] = [this.chosen(), this.under()];
    if (!said || !one || !other) return [];
    const sister = this.store.sisters().find((s) => s.id === other.id);
    const name = sister ? `${sister.machine} ${sister.letter}` : `recording ${other.id}`;
    const beside = besideSaid(said, this.preferences.system(), name);
    const where = one.plan.motorAlone && !other.plan.motorAlone ? whereNoiseIs(said) : null;
    return where ? [NOISE_IS[where], ...beside] : beside;
  });
  protected readonly run = computed(() => {
    const plan = this.plan();
    const axis = this.context.axis();
    if (!plan || !axis) return null;
    const system = this.preferences.system();
    const [from, to] = [plan.fromMm, plan.fromMm + plan.strokeMm].map((mm) => formatSize(mm, system));
    return {
      before: beforeRun(axis.config, plan),
      says: `It stands ${plan.stillS} s with its drives on, then ${plan.motorAlone ? "the motor turns as if it drove the axis" : "goes"} from ${from} to ${to} and back at ${formatQuantity("feed", plan.feedMmMin, system)}, ${plan.passes} ways, half a second at either end: ${Math.ceil(planSeconds(plan))} s in all.`,
      gravity: isGravityAxis(axis.config),
      rapid: axis.config.rapidMmMin,
      travel: axis.config.travelMm,
    };
  });

  constructor() {
    this.context.station.set("ask");
    inject(DestroyRef).onDestroy(() => this.context.station.set(null));
    effect(() => {
      const id = this.context.axis()?.id;
      if (id !== undefined) untracked(() => this.store.load(id));
    });
    const before = this.queue.taken();
    effect(() => {
      const sound = this.queue.taken();
      if (!sound || sound === before) return;
      untracked(() => {
        this.store.put(sound);
        if (sound.axisId === this.context.axis()?.id) this.heard(sound.id);
      });
    });
    void this.queue.recall();
  }

  protected line(sound: Sound): string {
    return soundLine(sound, this.preferences.system());
  }

  protected planned(change: Partial<SoundPlan>): void {
    this.plan.update((plan) => (plan ? { ...plan, ...change } : plan));
  }

  protected look(id: number): void {
    this.chosenId.set(id);
    this.layBeside(this.coupledBeside());
  }

  /** A motor alone is held beside its axis at once, where that was recorded at the same feed. */
  private coupledBeside(): string {
    const alone = this.chosen()?.plan;
    const coupled = this.others().find((s) => !s.plan.motorAlone && s.plan.feedMmMin === alone?.feedMmMin);
    return alone?.motorAlone && coupled ? String(coupled.id) : "";
  }

  protected layBeside(id: string): void {
    const other = id ? Number(id) : null;
    this.otherId.set(other);
    const one = this.chosen();
    if (one) this.store.compare(one.id, other);
  }

  protected simulate(): void {
    const plan = this.plan();
    if (plan) this.store.simulate(plan, this.place(), (sound) => this.heard(sound.id));
  }

  /** Sent now, or once there is a server again. */
  protected keep(file: Blob, how: Pick<Sound, "ownGain"> & { readonly source: "file" | "microphone" }): void {
    const [plan, axis] = [this.plan(), this.context.axis()];
    if (plan && axis) this.queue.take(axis.id, { plan, place: this.place(), ...how }, file);
  }

  protected setAside(id: number, reason: string): void {
    this.store.setAside(id, reason, () => {
      this.chosenId.set(null);
      this.newest.set(this.used()[0]?.id ?? null);
      this.layBeside("");
      this.context.changed.next();
    });
  }

  /** A new one is looked at, and an open case weighs it. */
  private heard(id: number): void {
    this.look(id);
    this.context.changed.next();
  }
}
