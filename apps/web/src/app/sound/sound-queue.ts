import { HttpClient } from "@angular/common/http";
import { computed, inject, Injectable, InjectionToken, signal } from "@angular/core";
import { LARGEST_SOUND_PART, type Sound, type SoundCreate } from "@iron/contract";
import { EMPTY, expand, last, type Observable, switchMap, takeWhile } from "rxjs";
import { Api } from "../data/api";
import { keptBlobs, type KeptBlobs } from "../data/kept-blobs";
import { newKey } from "../data/new-key";
import { Preferences } from "../data/preferences";
import { RefusedBlobs } from "../data/refused-blobs";
import { Waiting, type NotTaken } from "../data/waiting";
import { Outbox } from "../shared/outbox";

/** A recording that is made, and not yet with the server. */
export interface WaitingSound {
  readonly axisId: number;
  readonly what: Omit<SoundCreate, "bytes">;
  readonly by: string;
  readonly file: Blob;
  /** Proves that it was made in their session. */
  readonly seal?: string | undefined;
  /** The server would not have it, in its words: it is kept till that is read. */
  readonly refusal?: string | undefined;
}

/** Where recordings wait between page loads. */
export const SOUND_KEEP = new InjectionToken<KeptBlobs<WaitingSound>>("where recordings wait", {
  providedIn: "root",
  factory: () => keptBlobs<WaitingSound>("iron-patience-sounds", "sounds", (sound) => sound.what.key),
});

/** Sends recordings part by part, once each, and keeps them in the browser till the server has them. */
@Injectable({ providedIn: "root" })
export class SoundQueue {
  private readonly api = inject(Api);
  private readonly http = inject(HttpClient);
  private readonly store = inject(SOUND_KEEP);
  private readonly preferences = inject(Preferences);
  /** The last one that arrived wholly, as it was worked out. */
  readonly taken = signal<Sound | null>(null);
  private readonly refusals = new RefusedBlobs(this.store, (s) => s.what.key);
  /** What the server would not have: kept till it is read. */
  readonly refused = this.refusals.all;
  /** How much of the one that is on its way is with the server, 0 to 1. */
  readonly sent = signal(0);
  private readonly outbox = new Outbox<WaitingSound, Sound>({
    keyOf: (s) => s.what.key,
    send: (s) => this.send(s),
    sealable: (s) => ({ address: addressOf(this.api, s), body: JSON.stringify(begins(s)) }),
    sealed: (s) => void this.store.put(s).catch(() => undefined),
    taken: (sound) => this.taken.set(sound),
    file: (s) => s.file,
    refused: ({ detail }, sound) => this.refusals.add(sound, detail),
    changed: (_, gone) => {
      if (gone) this.refusals.settle(gone);
    },
  });
  readonly waiting = this.outbox.waiting.asReadonly();
  readonly offline = this.outbox.offline.asReadonly();

  constructor() {
    const told = ({ what, axisId, by, refusal, file }: WaitingSound): NotTaken => ({
      ...{ key: what.key, what: `Recording of axis ${axisId}, ${by}`, message: refusal ?? "", path: "" },
      large: true,
      file: () => file,
      read: () => this.read(what.key),
    });
    inject(Waiting).tell(computed(() => this.refused().map(told)));
  }

  /** What a page left behind goes out now. A browser that forbids a store keeps none. */
  async recall(): Promise<void> {
    const kept = await this.store.all().catch(() => []);
    this.outbox.recall(this.refusals.recall(kept));
    this.outbox.flush();
  }

  /** A recording made just now, by whoever is working. */
  take(axisId: number, what: Omit<SoundCreate, "bytes" | "key" | "at">, file: Blob): void {
    const at = new Date().toISOString();
    const sound = { axisId, what: { ...what, key: newKey(), at }, by: this.preferences.who(), file };
    // Should the store be full or forbidden, the recording still lives in this page.
    void this.store.put(sound).catch(() => undefined);
    this.outbox.add(sound);
  }

  /** It is read that the server would not have it. */
  read(key: string): void {
    this.refusals.read(key);
  }

  /** What is there already is not sent again. */
  private send(waiting: WaitingSound): Observable<Sound> {
    const { axisId, file, by, seal } = waiting;
    this.sent.set(0);
    return this.api.call("beginSound", { params: { id: axisId }, body: begins(waiting), by, seal }).pipe(
      expand((sound) => (sound.received < file.size ? this.part(sound, file) : EMPTY)),
      takeWhile((sound) => sound.received < file.size, true),
      last(),
      // Whose it is was said at its beginning: whoever is here now brings the rest.
      switchMap((sound) => this.api.call("finishSound", { params: { id: sound.id } })),
    );
  }

  private part({ id, received }: Sound, file: Blob): Observable<Sound> {
    this.sent.set(received / file.size);
    const bytes = file.slice(received, received + LARGEST_SOUND_PART);
    const headers = { "content-type": "application/octet-stream" };
    return this.http.put<Sound>(`/api/sounds/${id}/parts/${received}`, bytes, { headers });
  }
}

const begins = ({ what, file }: WaitingSound): SoundCreate => ({ ...what, bytes: file.size });
const addressOf = (api: Api, { axisId: id }: WaitingSound): string => api.address("beginSound", { params: { id } });
