import { computed, Injectable, signal, type Signal } from "@angular/core";
import type { Sealable } from "./seals";

/** One thing that waits, as it will be sent. */
export interface Held extends Sealable {
  readonly key: string;
  readonly seal?: string | undefined;
  /** Whose work it stands on, and goes after. */
  readonly after: string | null;
  /** What belongs to it and is larger. */
  readonly file: Blob | null;
}

/** Something that is sent in order: how much of it waits, and why. */
export interface Box {
  readonly waiting: Signal<readonly unknown[]>;
  readonly offline: Signal<boolean>;
  /** Who has to sign in before their part of it goes. */
  readonly waitsFor: Signal<readonly string[]>;
  readonly held: Signal<readonly Held[]>;
  letGo(key: string): void;
}

/** One thing that the server would not have, with its words. */
export interface NotTaken {
  readonly key: string;
  readonly what: string;
  readonly message: string;
  /** The page that it belongs to; empty: none. */
  readonly path: string;
  /** What was entered, as it was sent. */
  readonly says?: string;
  /** Sends it once more: for who made it. */
  readonly again?: () => void;
  /** A photo or a recording: nothing here shows it. */
  readonly large?: boolean;
  file(): Blob;
  /** It is read, and told no more. */
  read(): void;
}

/** What was noted on this device and is not with the server yet, of all kinds. */
@Injectable({ providedIn: "root" })
export class Waiting {
  private readonly state = signal<readonly Box[]>([]);
  readonly boxes = this.state.asReadonly();
  readonly count = computed(() => this.boxes().reduce((sum, box) => sum + box.waiting().length, 0));
  readonly offline = computed(() => this.boxes().some((box) => box.waiting().length > 0 && box.offline()));
  /** No server answers, and what is kept of it is shown: it may be of before. */
  readonly cut = signal(false);
  /** A newer version of the page is there, and waits to be begun with. */
  readonly newer = signal(false);
  readonly names = computed(() => [...new Set(this.boxes().flatMap((box) => box.waitsFor()))]);

  constructor() {
    // Heard from the beginning: what looks after the page’s versions comes later, and is told once.
    if ("serviceWorker" in navigator)
      navigator.serviceWorker.addEventListener(
        "message",
        ({ data }: MessageEvent<{ readonly type?: string } | null>) => {
          if (data?.type === "VERSION_READY") this.newer.set(true);
        },
      );
  }

  private readonly refusals = signal<readonly Signal<readonly NotTaken[]>[]>([]);
  readonly notTaken = computed(() => this.refusals().flatMap((all) => all()));

  /** Said wherever one is, until it has been read. */
  tell(refused: Signal<readonly NotTaken[]>): void {
    this.refusals.update((all) => [...all, refused]);
  }

  /** Told of from now on. */
  add(box: Box): void {
    this.state.update((all) => [...all, box]);
  }

  drop(box: Box): void {
    this.state.update((all) => all.filter((one) => one !== box));
  }
}

/** Words as a file. */
export const fileOf = (content: object): Blob =>
  new Blob([JSON.stringify(content, null, 2)], { type: "application/json" });
