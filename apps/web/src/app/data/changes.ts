import { effect, inject, Injectable, signal, untracked } from "@angular/core";
import type { Changed } from "@iron/contract";
import { auditTime, filter, fromEvent, map, type Observable, Subject, switchMap, of, take } from "rxjs";
import { Door } from "./door";
import { FirstAnswer, PAGE } from "./working-as";

const NAME = "iron-patience.changes";
/** Several changes in a row are looked at once. */
const TOGETHER_MS = 200;
/** A stream that was refused is asked for again after this long. */
const REFUSED_MS = 30_000;
/** Something may have been missed: everything is looked at. */
const ALL: Changed = { path: "", page: "" };
/** What tabs tell each other: a change, or whether there is a stream at all. */
type Told = Changed | { readonly cut: boolean };

/**
 * What is changed elsewhere, told to the pages that show it. All tabs of a browser share one stream: one of them holds
 * it, by a lock that passes on when that tab is closed, and tells the others.
 */
@Injectable({ providedIn: "root" })
export class Changes {
  private readonly door = inject(Door);
  private readonly first = inject(FirstAnswer);
  private readonly heard = new Subject<Changed>();
  private readonly tabs = "BroadcastChannel" in globalThis ? new BroadcastChannel(NAME) : null;
  /** This tab is the one that holds the stream. */
  private readonly holds = signal(false);
  /** The stream is broken: what is shown may be of before. */
  readonly cut = signal(false);
  private source: EventSource | null = null;
  private started = false;
  private broken = false;

  constructor() {
    // Opened where somebody may look, closed at once where nobody may any more.
    effect(() => {
      const may = this.holds() && this.door.me() !== null && !this.door.shut();
      untracked(() => this.follow(may));
    });
  }

  /** Changes of others whose address has one of these words (“jobs”, “jobs/3”); all of them without a word. */
  of(...words: readonly string[]): Observable<void> {
    this.start();
    const wanted = ({ path }: Changed): boolean =>
      path === "" || words.length === 0 || words.some((word) => `${path}/`.includes(`/${word}/`));
    return this.heard.pipe(
      filter((changed) => changed.page !== PAGE && wanted(changed)),
      auditTime(TOGETHER_MS),
      // A page nobody sees looks once it is seen.
      switchMap(() =>
        document.hidden
          ? fromEvent(document, "visibilitychange").pipe(
              filter(() => !document.hidden),
              take(1),
            )
          : of(null),
      ),
      map(() => undefined),
    );
  }

  private start(): void {
    if (this.started || typeof EventSource === "undefined") return;
    this.started = true;
    this.tabs?.addEventListener("message", ({ data }: MessageEvent<Told>) =>
      "cut" in data ? this.cut.set(data.cut) : this.heard.next(data),
    );
    const hold = (): Promise<never> => {
      this.holds.set(true);
      return new Promise<never>(() => undefined);
    };
    // Without locks, as on a page that is not secure, each tab has a stream of its own.
    if ("locks" in navigator) navigator.locks.request(NAME, hold).catch(() => undefined);
    else void hold();
  }

  private follow(may: boolean): void {
    if (!may) {
      if (this.source) this.broken = true;
      this.source?.close();
      this.source = null;
      this.isCut(false);
      return;
    }
    if (this.source) return;
    // What was changed between this page’s first answer and its stream’s opening is told as well.
    const after = this.first.at === null ? "" : `&after=${encodeURIComponent(this.first.at)}`;
    const source = new EventSource(`/api/changes?ngsw-bypass${after}`);
    this.source = source;
    source.onmessage = (event: MessageEvent<string>) => this.tell(JSON.parse(event.data) as Changed);
    source.onopen = () => {
      this.isCut(false);
      if (this.broken) this.tell(ALL);
      this.broken = false;
    };
    source.onerror = () => {
      this.broken = true;
      this.isCut(true);
      // The browser goes on by itself, unless it was refused.
      if (source.readyState !== EventSource.CLOSED || this.source !== source) return;
      this.source = null;
      setTimeout(() => this.follow(this.holds() && !this.door.shut()), REFUSED_MS);
    };
  }

  private isCut(cut: boolean): void {
    if (cut === this.cut()) return;
    this.cut.set(cut);
    this.tabs?.postMessage({ cut });
  }

  private tell(changed: Changed): void {
    this.heard.next(changed);
    this.tabs?.postMessage(changed);
  }
}
