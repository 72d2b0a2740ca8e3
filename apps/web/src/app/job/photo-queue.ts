import { computed, inject, Injectable, InjectionToken, signal } from "@angular/core";
import type { Job, LubricationPointRecord } from "@iron/contract";
import { Api, type KeyedPhoto } from "../data/api";
import { keptBlobs, type KeptBlobs } from "../data/kept-blobs";
import { newKey } from "../data/new-key";
import { Preferences } from "../data/preferences";
import { RefusedBlobs } from "../data/refused-blobs";
import { Waiting, type NotTaken } from "../data/waiting";
import { Outbox } from "../shared/outbox";
import { shrinkPhoto, SMALL_PHOTO } from "../shared/shrink-photo";

/** A photo of a lubrication point, or of one of its checks. */
export interface PhotoTaken {
  readonly file: File;
  /** The check that it shows. */
  readonly shows?: string;
}

/** A photo taken at a step of a job or at a lubrication point, and not yet with the server. */
export interface WaitingPhoto extends KeyedPhoto {
  /** The server would not have it, in its words: it is kept till that is read. */
  readonly refusal?: string | undefined;
}

/** Where photos wait between page loads: pictures are too large for the plain store of the acts. */
export const PHOTO_STORE = new InjectionToken<KeptBlobs<WaitingPhoto>>("photo store", {
  providedIn: "root",
  factory: () => keptBlobs<WaitingPhoto>("iron-patience", "photos", (photo) => photo.key),
});

/** Sends photos, once each, and keeps them in the browser till the server has them. */
@Injectable({ providedIn: "root" })
export class PhotoQueue {
  private readonly api = inject(Api);
  private readonly store = inject(PHOTO_STORE);
  private readonly preferences = inject(Preferences);
  /** The job or point as it was answered after the last photo. */
  readonly taken = signal<Job | LubricationPointRecord | null>(null);
  /** The last photo that the server would not have, with its words. */
  readonly refused = signal<{ readonly photo: WaitingPhoto; readonly message: string } | null>(null);
  private readonly refusals = new RefusedBlobs(this.store, (p) => p.key);
  /** What the server would not have: kept till it is read. */
  readonly notTaken = this.refusals.all;
  private readonly outbox = new Outbox<WaitingPhoto, Job | LubricationPointRecord>({
    keyOf: (p) => p.key,
    send: (p) => this.api.keyedPhoto(p),
    sealable: (p) => ({ address: this.api.photoAddress(p), body: p.file }),
    sealed: (p) => void this.store.put(p).catch(() => undefined),
    taken: (now) => this.taken.set(now),
    refused: ({ detail }, photo) => {
      this.refusals.add(photo, detail);
      this.refused.set({ photo, message: detail });
    },
    changed: (_, gone) => {
      if (gone) this.refusals.settle(gone);
    },
  });
  readonly waiting = this.outbox.waiting.asReadonly();

  constructor() {
    const told = ({ key, of, id, caption, by, refusal, file }: WaitingPhoto): NotTaken => ({
      ...{ key, what: `Photo: ${caption}, ${by}`, message: refusal ?? "" },
      path: of === "job" ? `/jobs/${id}` : `/points/${id}`,
      large: true,
      file: () => file,
      read: () => this.read(key),
    });
    inject(Waiting).tell(computed(() => this.notTaken().map(told)));
  }

  /** It is read that the server would not have it. */
  read(key: string): void {
    this.refusals.read(key);
  }

  /** Photos that a page left behind go out now. A browser that forbids a store keeps none. */
  async recall(): Promise<void> {
    const kept = await this.store.all().catch(() => []);
    this.outbox.recall(this.refusals.recall(kept));
    this.outbox.flush();
  }

  /** A photo taken just now, by whoever is working. */
  take(photo: Omit<WaitingPhoto, "key" | "by">): void {
    this.add({ ...photo, key: newKey(), by: this.preferences.who() });
  }

  /** One of a lubrication point, or of one of its checks; tells what it is called. */
  takeOf(point: Pick<LubricationPointRecord, "id" | "place">, { file, shows }: PhotoTaken): string {
    const caption = shows ? `${point.place}: ${shows}` : point.place;
    this.take({ of: "point", id: point.id, step: "", caption, shows, file });
    return caption;
  }

  add(photo: WaitingPhoto): void {
    this.refused.set(null);
    if (photo.file.size <= SMALL_PHOTO) this.queue(photo);
    else void shrinkPhoto(photo.file).then((file) => this.queue({ ...photo, file }));
  }

  private queue(photo: WaitingPhoto): void {
    // Should the store be full or forbidden, the photo still lives in this page.
    void this.store.put(photo).catch(() => undefined);
    this.outbox.add(photo);
  }
}
