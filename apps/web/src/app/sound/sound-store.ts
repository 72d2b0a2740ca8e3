import { HttpClient } from "@angular/common/http";
import { DestroyRef, inject, Injectable, signal } from "@angular/core";
import type { SoundComparison, SoundPlan } from "@iron/core";
import { LARGEST_SOUND_PART, type SisterSound, type Sound, type SoundCreate } from "@iron/contract";
import {
  concatMap,
  EMPTY,
  expand,
  finalize,
  from,
  last,
  type Observable,
  of,
  Subscription,
  switchMap,
  takeWhile,
} from "rxjs";
import { Api } from "../data/api";
import { saidIn } from "../data/problems";
import { newKey } from "../data/new-key";

/** A recording on its way to the server. */
export interface Sending {
  readonly what: Omit<SoundCreate, "bytes">;
  readonly file: Blob;
}

/** Recordings of one axis, the one that is looked at, and one that is on its way. */
@Injectable()
export class SoundStore {
  private readonly api = inject(Api);
  private readonly http = inject(HttpClient);
  readonly sounds = signal<readonly Sound[] | null>(null);
  /** Of other axes of its kind; none until they are known. */
  readonly sisters = signal<readonly SisterSound[]>([]);
  readonly error = signal("");
  /** Why the last thing asked for was refused. */
  readonly refusal = signal("");
  readonly busy = signal("");
  /** How much of a recording is with the server, 0 to 1; null when none is on its way. */
  readonly sent = signal<number | null>(null);
  /** A recording that did not arrive wholly: it can be sent again, and goes on where it was. */
  readonly stuck = signal<Sending | null>(null);
  readonly beside = signal<SoundComparison | null>(null);
  private axisId = 0;
  private asking: Subscription | null = null;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.asking?.unsubscribe());
  }

  load(axisId: number): void {
    if (axisId !== this.axisId) {
      this.sounds.set(null);
      this.sisters.set([]);
    }
    this.axisId = axisId;
    this.error.set("");
    this.asking?.unsubscribe();
    // Beside each other: were one added to the other, it would end with it.
    this.asking = new Subscription();
    this.asking.add(
      this.api
        .call("sounds", { params: { id: axisId } })
        .subscribe({ next: (sounds) => this.sounds.set(sounds), error: saidIn(this.error) }),
    );
    this.asking.add(
      this.api
        .call("sisterSounds", { params: { id: axisId } })
        .subscribe({ next: (sisters) => this.sisters.set(sisters), error: saidIn(this.error) }),
    );
  }

  simulate(plan: SoundPlan, place: string, done: (sound: Sound) => void): void {
    const ask = () => this.api.call("simulateSound", { params: { id: this.axisId }, body: { plan, place } });
    this.run("The simulated axis runs and is recorded…", ask, { done });
  }

  /** Sends a recording part by part; what is there already is not sent again. */
  send(what: Omit<SoundCreate, "bytes" | "key">, file: Blob, done: (sound: Sound) => void): void {
    this.sendOn({ what: { ...what, key: newKey() }, file }, done);
  }

  sendOn(sending: Sending, done: (sound: Sound) => void): void {
    const { what, file } = sending;
    this.stuck.set(null);
    this.sent.set(0);
    this.run(
      "Sending the recording…",
      () =>
        this.api.call("beginSound", { params: { id: this.axisId }, body: { ...what, bytes: file.size } }).pipe(
          expand((sound) => (sound.received < file.size ? this.part(sound, file) : EMPTY)),
          takeWhile((sound) => sound.received < file.size, true),
          last(),
          switchMap((sound) => this.api.call("finishSound", { params: { id: sound.id } })),
          finalize(() => this.sent.set(null)),
        ),
      { done, failed: () => this.stuck.set(sending) },
    );
  }

  setAside(id: number, reason: string, done: () => void): void {
    this.run("Keeping…", () => this.api.call("setSoundAside", { params: { id }, body: { reason } }), { done });
  }

  compare(id: number, other: number | null): void {
    this.beside.set(null);
    if (other === null) return;
    this.refusal.set("");
    this.api
      .call("compareSounds", { params: { id, other } })
      .subscribe({ next: (said) => this.beside.set(said), error: saidIn(this.refusal) });
  }

  private part({ id, received }: Sound, file: Blob): Observable<Sound> {
    this.sent.set(received / file.size);
    const bytes = file.slice(received, received + LARGEST_SOUND_PART);
    return from(bytes.arrayBuffer()).pipe(
      concatMap((buffer) =>
        this.http.put<Sound>(`/api/sounds/${id}/parts/${received}`, buffer, {
          headers: { "content-type": "application/octet-stream" },
        }),
      ),
      switchMap((sound) => of(sound)),
    );
  }

  private run(
    what: string,
    ask: () => Observable<Sound>,
    { done, failed }: { readonly done: (sound: Sound) => void; readonly failed?: () => void },
  ): void {
    this.busy.set(what);
    this.refusal.set("");
    ask().subscribe({
      next: (sound) => {
        this.busy.set("");
        const others = (this.sounds() ?? []).filter((s) => s.id !== sound.id);
        this.sounds.set([sound, ...others].sort((a, b) => b.id - a.id));
        done(sound);
      },
      error: (failure: unknown) => {
        this.busy.set("");
        failed?.();
        saidIn(this.refusal)(failure);
      },
    });
  }
}
