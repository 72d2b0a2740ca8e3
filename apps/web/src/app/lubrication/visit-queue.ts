import { inject, Injectable, signal } from "@angular/core";
import type { LubricationPointRecord, LubricationVisitInput } from "@iron/contract";
import { Api } from "../data/api";
import { newKey } from "../data/new-key";
import { Outbox } from "../shared/outbox";

/** A visit made and not yet with the server. */
export interface WaitingVisit {
  readonly pointId: number;
  readonly place: string;
  readonly visit: LubricationVisitInput;
  readonly by: string;
}

/** A visit that the server would not have, with its words. */
export interface RefusedVisit extends WaitingVisit {
  readonly message: string;
  /** Somebody else has made one just now: this one can be kept beside it. */
  readonly besides: boolean;
}

const STORE = "iron-visits-waiting";

/** Visits on their way: kept in the browser, sent in order, each once. */
@Injectable({ providedIn: "root" })
export class VisitQueue {
  private readonly api = inject(Api);
  readonly refused = signal<readonly RefusedVisit[]>([]);
  /** The point as the server answered it last. */
  readonly taken = signal<LubricationPointRecord | null>(null);
  private readonly outbox = new Outbox<WaitingVisit, LubricationPointRecord>({
    keyOf: (w) => w.visit.key,
    send: (w) => this.api.call("visitPoint", { params: { id: w.pointId }, body: w.visit, by: w.by }),
    taken: (point) => this.taken.set(point),
    refused: ({ detail, current }, w) =>
      this.refused.update((all) => [...all, { ...w, message: detail, besides: Boolean(current) }]),
    changed: keep,
  });
  readonly waiting = this.outbox.waiting.asReadonly();
  readonly offline = this.outbox.offline.asReadonly();

  constructor() {
    this.outbox.recall(recall());
    this.outbox.flush();
  }

  add(visit: WaitingVisit): void {
    this.outbox.add(visit);
  }

  /** What was told is not lost because somebody was faster: both visits stand. */
  keepBesides({ pointId, place, by, visit }: RefusedVisit): void {
    this.read(visit.key);
    this.add({ pointId, place, by, visit: { ...visit, key: newKey(), again: true } });
  }

  read(key: string): void {
    this.refused.update((all) => all.filter((r) => r.visit.key !== key));
  }
}

function keep(waiting: readonly WaitingVisit[]): void {
  try {
    if (waiting.length) localStorage.setItem(STORE, JSON.stringify(waiting));
    else localStorage.removeItem(STORE);
  } catch {
    // A full or forbidden store: the visits still live in this page.
  }
}

function recall(): readonly WaitingVisit[] {
  try {
    const list: unknown = JSON.parse(localStorage.getItem(STORE) ?? "[]");
    return Array.isArray(list) ? (list as WaitingVisit[]) : [];
  } catch {
    return [];
  }
}
