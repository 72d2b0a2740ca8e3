import { computed, DestroyRef, inject, Injectable, signal } from "@angular/core";
import type { Axis, BarBatch, CircleDrawn, CirclePlane, Circles, CircleSession } from "@iron/contract";
import {
  catchError,
  EMPTY,
  exhaustMap,
  finalize,
  forkJoin,
  tap,
  timer,
  type Observable,
  type Subscription,
} from "rxjs";
import { Api } from "../data/api";
import { Driving } from "../data/driving";
import { saidIn } from "../data/problems";
import { BarStream } from "./bar-stream";

/** A way round as it is read: samples that came, and numbers that did not. */
export interface LivePass {
  readonly planeId: number;
  readonly direction: 1 | -1;
  readonly of: number;
  readonly got: number;
  /** µm. */
  readonly last: number | null;
  /** Every so many samples: what a screen can show. */
  readonly points: readonly { readonly at: number; readonly um: number | null }[];
  readonly holes: readonly { readonly from: number; readonly count: number }[];
}

/** How often it is asked how far the server is. */
const ASK_MS = 1000;
/** Points of a way round that are drawn while it comes. */
const DRAWN = 700;
/** Beyond this it is the run in, µm: drawn it would make all else flat. */
const FAR = 150;

/** One batch more of a way round: a number that does not follow is a hole. */
export function withBatch(pass: LivePass | null, batch: BarBatch): LivePass {
  const { planeId, direction, of, from, values } = batch;
  const before: LivePass =
    pass && pass.direction === direction && from >= pass.got
      ? pass
      : // Who comes later has not lost what was sent before.
        { planeId, direction, of, got: from, last: null, points: [], holes: [] };
  const holes = from > before.got ? [...before.holes, { from: before.got, count: from - before.got }] : before.holes;
  const every = Math.max(1, Math.floor(of / DRAWN));
  const points = [
    ...before.points,
    ...(from > before.got ? [{ at: before.got, um: null }] : []),
    ...values.flatMap((um, i) =>
      (from + i) % every === 0 ? [{ at: from + i, um: um === null || Math.abs(um) > FAR ? null : um }] : [],
    ),
  ];
  const last = values.findLast((v) => v !== null) ?? null;
  return {
    planeId,
    direction,
    of,
    got: from + values.length,
    last: values.at(-1) === null ? null : last,
    points,
    holes,
  };
}

/** A session of circles, the plane that is looked at, and the bar while it reads. */
@Injectable()
export class CircleStore {
  private readonly api = inject(Api);
  private readonly stream = inject(BarStream);
  readonly session = signal<CircleSession | null>(null);
  readonly axes = signal<readonly Axis[]>([]);
  readonly nickname = signal("");
  readonly drawn = signal<Readonly<Record<number, CircleDrawn>>>({});
  /** Other sessions of the machine: what this one may be laid over. */
  readonly others = signal<Circles["sessions"]>([]);
  /** A plane of another session that is laid under this one. */
  readonly under = signal<{ readonly plane: CirclePlane; readonly drawn: CircleDrawn } | null>(null);
  readonly error = signal("");
  /** Why the last thing asked for was refused. */
  readonly refusal = signal("");
  readonly busy = signal(false);
  /** Readings are kept, and the server takes them apart: how much of it is done, from 0 to 1; null when it does not. */
  readonly working = signal<number | null>(null);
  readonly live = signal<LivePass | null>(null);
  readonly waiting = signal(false);
  readonly reading = computed(() => this.live() !== null);
  private listening: Subscription | null = null;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.listening?.unsubscribe());
    inject(Driving).follow(
      computed(() => {
        const planeId = this.live()?.planeId;
        if (planeId === undefined) return null;
        return {
          what: `${this.nickname()}, read by the bar,`,
          stop: () => this.stopped(planeId).pipe(tap(() => this.ended())),
        };
      }),
    );
  }

  load(id: number): void {
    this.error.set("");
    this.api.call("circle", { params: { id } }).subscribe({
      next: (session) => {
        this.take(session);
        if (session.reading !== null) this.listen(session.reading, null);
        this.api.call("circles", { params: { id: session.machineId } }).subscribe({
          next: ({ sessions }) => this.others.set(sessions.filter((s) => s.id !== session.id)),
          error: saidIn(this.refusal),
        });
        this.api.call("machine", { params: { id: session.machineId } }).subscribe({
          next: (machine) => {
            this.axes.set(machine.axes);
            this.nickname.set(machine.nickname);
          },
          error: saidIn(this.error),
        });
      },
      error: saidIn(this.error),
    });
  }

  /** Lets the bar read one way round, once somebody listens; the plane is shown when it has ended. */
  read(planeId: number, direction: 1 | -1): void {
    this.busy.set(true);
    this.refusal.set("");
    this.listen(planeId, () =>
      this.api.call("readCircle", { params: { id: planeId }, body: { direction } }).subscribe({
        next: () => this.busy.set(false),
        error: (failure: unknown) => {
          this.busy.set(false);
          this.hush();
          saidIn(this.refusal)(failure);
        },
      }),
    );
  }

  /** Lays a plane of another session under this one; null takes it away. */
  lay(plane: CirclePlane | null): void {
    this.under.set(null);
    if (plane)
      this.api.call("drawnCircle", { params: { id: plane.id } }).subscribe({
        next: (drawn) => this.under.set({ plane, drawn }),
        error: saidIn(this.refusal),
      });
  }

  stop(planeId: number): void {
    this.refusal.set("");
    this.stopped(planeId).subscribe({ error: saidIn(this.refusal) });
  }

  private stopped(planeId: number): Observable<unknown> {
    return this.api.call("stopCircle", { params: { id: planeId } });
  }

  aside(passId: number, reason: string): void {
    this.act(this.api.call("setPassAside", { params: { id: passId }, body: { reason } }));
  }

  finish(): void {
    const id = this.session()?.id;
    if (id !== undefined) this.act(this.api.call("finishCircle", { params: { id } }));
  }

  giveUp(reason: string): void {
    const id = this.session()?.id;
    if (id !== undefined) this.act(this.api.call("abandonCircle", { params: { id }, body: { reason } }));
  }

  /** Keeps a file; what is wrong with it is told as the server says it. */
  importCsv(planeId: number, text: string, kept: () => void): void {
    this.keep(planeId, this.api.call("importCircle", { params: { id: planeId }, body: { text } }), kept);
  }

  typed(
    planeId: number,
    { direction, readings }: { readonly direction: 1 | -1; readonly readings: readonly { deg: number; mm: number }[] },
    kept: () => void,
  ): void {
    const body = { direction, readings: [...readings] };
    this.keep(planeId, this.api.call("typeCircle", { params: { id: planeId }, body }), kept);
  }

  /** What takes long is asked how far it is; that nothing comes back of that question is no matter. */
  private keep(planeId: number, request: Observable<CircleSession>, kept: () => void): void {
    this.working.set(0);
    const asking = timer(ASK_MS, ASK_MS)
      .pipe(exhaustMap(() => this.api.call("circleWork", { params: { id: planeId } }).pipe(catchError(() => EMPTY))))
      .subscribe(({ share }) => this.working.update((now) => Math.max(now ?? 0, share ?? 0)));
    const ended = (): void => {
      asking.unsubscribe();
      this.working.set(null);
    };
    this.act(request.pipe(finalize(ended)), kept);
  }

  private act(request: Observable<CircleSession>, done: () => void = () => undefined): void {
    this.busy.set(true);
    this.refusal.set("");
    request.subscribe({
      next: (session) => {
        this.busy.set(false);
        this.take(session);
        done();
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        saidIn(this.refusal)(failure);
      },
    });
  }

  private take(session: CircleSession): void {
    this.session.set(session);
    const read = session.planes.filter((p) => p.passes.some((q) => q.used));
    if (read.length === 0) {
      this.drawn.set({});
      return;
    }
    forkJoin(read.map((p) => this.api.call("drawnCircle", { params: { id: p.id } }))).subscribe({
      next: (all) => this.drawn.set(Object.fromEntries(read.map((p, i) => [p.id, all[i]]))),
      error: saidIn(this.error),
    });
  }

  /** Hears the bar out. `begin`: what is to be done once it is heard; without it, it reads already. */
  private listen(planeId: number, begin: (() => void) | null): void {
    this.hush();
    let begun = begin === null;
    this.listening = this.stream.of(planeId).subscribe((news) => {
      this.waiting.set(news.kind === "waiting");
      if (news.kind === "open" && !begun) {
        begun = true;
        begin?.();
      }
      if (news.kind !== "batch") return;
      if (!news.batch.ended) this.live.update((pass) => withBatch(pass, news.batch));
      // Before anything was read it hears that nothing is.
      else if (this.live() || begin === null) this.ended();
    });
  }

  private ended(): void {
    this.hush();
    const id = this.session()?.id;
    if (id === undefined) return;
    this.api.call("circle", { params: { id } }).subscribe({
      next: (session) => this.take(session),
      error: saidIn(this.error),
    });
  }

  private hush(): void {
    this.listening?.unsubscribe();
    this.listening = null;
    this.live.set(null);
    this.waiting.set(false);
  }
}
