import { computed, inject, Injectable, signal } from "@angular/core";
import { ACCESS, reaches, type Me, type OperationName, type Somebody } from "@iron/contract";
import {
  BehaviorSubject,
  filter,
  finalize,
  first,
  map,
  of,
  share,
  Subject,
  switchMap,
  tap,
  type Observable,
} from "rxjs";
import { Api } from "./api";
import { Preferences } from "./preferences";
import { problemFrom } from "./problems";

/** A signature that asks for the PIN again: whose, and what comes of it. */
export interface AskedAgain {
  readonly name: string;
  readonly answered: Subject<boolean>;
}

const LEFT = "iron-patience.left";

/** Somebody left this device, and the server may not know it yet: outlives the page. */
function noteLeft(gone: boolean): void {
  if (gone) localStorage.setItem(LEFT, "yes");
  else localStorage.removeItem(LEFT);
}
const left = (): boolean => localStorage.getItem(LEFT) !== null;

const ME = "iron-patience.me";
const RETRY_MS = 3000;

/** For a page that is opened while no server answers; without what proves anything. */
function keepMe(me: Me): void {
  try {
    if (me.door === "people") localStorage.setItem(ME, JSON.stringify({ ...me, token: null }));
    else localStorage.removeItem(ME);
  } catch {
    // A full or forbidden store: then such a page knows nobody.
  }
}
function keptMe(): Me | null {
  try {
    return JSON.parse(localStorage.getItem(ME) ?? "null") as Me | null;
  } catch {
    return null;
  }
}

const isShut = (me: Me | null): boolean => me !== null && me.door !== "open" && (!me.person || me.chooses);

/** Who is signed in on this device, where one has to; and what they may. */
@Injectable({ providedIn: "root" })
export class Door {
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  private readonly known = signal<Me | null>(null);
  readonly me = this.known.asReadonly();
  /** It is as it was when the server answered last. */
  readonly stale = signal(false);
  private retry: ReturnType<typeof setTimeout> | null = null;
  /** How often it was said anew who is here. */
  private taken = 0;
  /** Who is here is being asked, since it was last said. */
  private meeting: { readonly at: number; readonly asked: Observable<Me> } | null = null;
  /** A signature waits for a PIN. */
  readonly asked = signal<AskedAgain | null>(null);
  /** Nothing of the shop is shown until it is known who looks. */
  readonly shut = computed(() => isShut(this.known()));
  /** As it is now, at once: who waits here must not be let in by what was a moment ago. */
  private readonly now = new BehaviorSubject<{ readonly me: Me | null; readonly asking: boolean }>({
    me: null,
    asking: false,
  });

  load(): void {
    this.now.next({ ...this.now.value, asking: true });
    const latest = this.unlessTaken();
    this.meet().subscribe({
      next: (me) => latest(() => this.take(me)),
      // What can be seen without the server is seen; what is asked of it says that it does not answer.
      error: () => latest(() => this.goOnAlone()),
    });
  }

  /** No server answers: who was here last is here still, unless they left; asked again till one does. */
  private goOnAlone(): void {
    const kept = this.known() ? null : keptMe();
    this.stale.set(true);
    if (kept) this.set(left() ? { ...kept, person: null, chooses: false } : kept);
    else this.now.next({ ...this.now.value, asking: false });
    this.retry ??= setTimeout(() => {
      this.retry = null;
      if (this.stale()) this.load();
    }, RETRY_MS);
  }

  /** An answer to what was asked before somebody came in or left is of yesterday: it does not put them out again. */
  private unlessTaken(): (then: () => void) => void {
    const at = this.taken;
    return (then) => {
      if (at === this.taken) then();
    };
  }

  /** Left while no server answered: its session still stands there. */
  private signOutOf(me: Me): Observable<Me> {
    this.known.set({ ...me, person: null });
    return this.api.call("signOut");
  }

  /** What the server said of the door; who it lets in works here from now on. */
  take(me: Me): void {
    if (me.person) {
      this.preferences.who.set(me.person.name);
      noteLeft(false);
    }
    this.stale.set(false);
    keepMe(me);
    this.set(me);
  }

  private set(me: Me): void {
    this.taken += 1;
    this.known.set(me);
    this.now.next({ me, asking: false });
  }

  /**
   * Once it is known whether somebody has to sign in, and somebody has, where one has to. What changes something asks
   * the server first, where only what was known before is known.
   */
  ready(changes: boolean): Observable<unknown> {
    return this.now.pipe(
      filter(({ me, asking }) => !asking && !isShut(me)),
      first(),
      switchMap(() => (changes && this.stale() && this.known() ? this.metAnew() : of(null))),
    );
  }

  private metAnew(): Observable<unknown> {
    const latest = this.unlessTaken();
    return this.meet().pipe(
      tap((me) => latest(() => this.take(me))),
      switchMap(() => this.ready(false)),
    );
  }

  /**
   * Who the server says is here; whoever left is not, though it had not heard of it. Asked once by all that ask before
   * it is said anew who is here.
   */
  private meet(): Observable<Me> {
    if (this.meeting?.at !== this.taken) {
      const asked = this.api.call("me").pipe(
        switchMap((me) => (me.person && left() ? this.signOutOf(me) : of(me))),
        finalize(() => {
          if (this.meeting?.asked === asked) this.meeting = null;
        }),
        share(),
      );
      this.meeting = { at: this.taken, asked };
    }
    return this.meeting.asked;
  }

  /** No server answers: somebody goes on, and what they note waits until they have signed in. */
  goOnAs(one: Somebody): void {
    const me = this.known();
    if (!me || !this.stale()) return;
    this.preferences.who.set(one.name);
    // What they may is said by the server once it answers.
    this.set({ ...me, person: { ...one, role: "technician" }, chooses: false, token: null, seals: [] });
  }

  may(operation: OperationName): boolean {
    const me = this.me();
    return !me || me.door === "open" || (!!me.person && reaches(me.person.role, ACCESS[operation]));
  }

  /** Somebody else may take the tablet over: what is on the screen stays, behind the question who it is. */
  leave(): void {
    const me = this.me();
    if (me?.door !== "people" || !me.person) return;
    noteLeft(true);
    this.take({ ...me, person: null, chooses: false });
    // Asked at once, with or without a connection: the page does not wait for the server to be shut.
    const latest = this.unlessTaken();
    this.api.call("signOut").subscribe({
      next: (now) => latest(() => this.take(now)),
      error: (failure: unknown) => latest(() => (problemFrom(failure).status === 0 ? this.goOnAlone() : undefined)),
    });
  }

  /** The session has ended elsewhere. */
  lost(): void {
    const me = this.me();
    if (me?.person) this.take({ ...me, person: null, token: null });
    this.load();
  }

  /** Once somebody is signed in. */
  entered(): Observable<Me> {
    return this.now.pipe(
      map(({ me }) => me),
      filter((me): me is Me => !!me?.person && !me.chooses),
      first(),
    );
  }

  /** Once the PIN was given again; false where it was not. */
  again(name: string): Observable<boolean> {
    const answered = new Subject<boolean>();
    this.asked()?.answered.next(false);
    this.asked.set({ name, answered });
    return answered.pipe(
      first(),
      tap(() => this.asked.set(null)),
    );
  }

  /** Gives a PIN for the signature that waits. */
  prove(secret: string): Observable<void> {
    const asked = this.asked();
    const personId = this.me()?.names.find((n) => n.name === asked?.name)?.id;
    if (!asked) return of(undefined);
    return this.api.call("sayAgain", { body: { secret, ...(personId === undefined ? {} : { personId }) } }).pipe(
      tap((me) => {
        this.take(me);
        asked.answered.next(true);
      }),
      map(() => undefined),
    );
  }
}
