import { DestroyRef, inject, Injectable, signal } from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import type { SoundComparison, SoundPlan } from "@iron/core";
import type { SisterSound, Sound } from "@iron/contract";
import { type Observable, Subscription } from "rxjs";
import { Api } from "../data/api";
import { Changes } from "../data/changes";
import { saidIn } from "../data/problems";

/** Recordings of one axis, and the one that is looked at beside another. */
@Injectable()
export class SoundStore {
  private readonly api = inject(Api);
  readonly sounds = signal<readonly Sound[] | null>(null);
  /** Of other axes of its kind; none until they are known. */
  readonly sisters = signal<readonly SisterSound[]>([]);
  readonly error = signal("");
  /** Why the last thing asked for was refused. */
  readonly refusal = signal("");
  readonly busy = signal("");
  readonly beside = signal<SoundComparison | null>(null);
  private axisId = 0;
  private asking: Subscription | null = null;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.asking?.unsubscribe());
    inject(Changes)
      .of("sounds", "sound")
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.look());
  }

  load(axisId: number): void {
    if (axisId !== this.axisId) {
      this.sounds.set(null);
      this.sisters.set([]);
    }
    this.axisId = axisId;
    this.error.set("");
    this.ask(saidIn(this.error));
  }

  /** Looks what others have recorded, kept or set aside; what cannot be had then stays as it is. */
  private look(): void {
    if (this.sounds() !== null && !this.busy()) this.ask(() => undefined);
  }

  private ask(error: (failure: unknown) => void): void {
    const params = { id: this.axisId };
    this.asking?.unsubscribe();
    // Beside each other: were one added to the other, it would end with it.
    this.asking = new Subscription();
    this.asking.add(
      this.api.call("sounds", { params }).subscribe({ next: (sounds) => this.sounds.set(sounds), error }),
    );
    this.asking.add(
      this.api.call("sisterSounds", { params }).subscribe({ next: (sisters) => this.sisters.set(sisters), error }),
    );
  }

  /** A recording as the server has it now. */
  put(sound: Sound): void {
    if (sound.axisId !== this.axisId) return;
    const others = (this.sounds() ?? []).filter((s) => s.id !== sound.id);
    this.sounds.set([sound, ...others].sort((a, b) => b.id - a.id));
  }

  simulate(plan: SoundPlan, place: string, done: (sound: Sound) => void): void {
    const ask = () => this.api.call("simulateSound", { params: { id: this.axisId }, body: { plan, place } });
    this.run("The simulated axis runs and is recorded…", ask, done);
  }

  setAside(id: number, reason: string, done: () => void): void {
    this.run(
      "Keeping…",
      () => this.api.call("setSoundAside", { params: { id }, body: { reason } }),
      (sound) => {
        done();
        // What was held beside it is held beside another now, or beside none.
        if (sound.well) this.load(this.axisId);
      },
    );
  }

  /** Others are held beside it from now on, or no longer. */
  keepWell(id: number, well: boolean): void {
    this.run(
      "Keeping…",
      () => this.api.call("keepSoundWell", { params: { id }, body: { well } }),
      () => this.load(this.axisId),
    );
  }

  compare(id: number, other: number | null): void {
    this.beside.set(null);
    if (other === null) return;
    this.refusal.set("");
    this.api
      .call("compareSounds", { params: { id, other } })
      .subscribe({ next: (said) => this.beside.set(said), error: saidIn(this.refusal) });
  }

  private run(what: string, ask: () => Observable<Sound>, done: (sound: Sound) => void): void {
    this.busy.set(what);
    this.refusal.set("");
    ask().subscribe({
      next: (sound) => {
        this.busy.set("");
        this.put(sound);
        done(sound);
      },
      error: (failure: unknown) => {
        this.busy.set("");
        saidIn(this.refusal)(failure);
      },
    });
  }
}
