import { computed, inject, Injectable, signal } from "@angular/core";
import type { LubricationPointRecord, LubricationVisitInput } from "@iron/contract";
import { Api } from "../data/api";
import { keptList } from "../data/kept-list";
import { newKey } from "../data/new-key";
import { refusals } from "../data/refusals";
import { fileOf, Waiting, type NotTaken } from "../data/waiting";
import { Outbox } from "../shared/outbox";

/** A visit made and not yet with the server. */
export interface WaitingVisit {
  readonly pointId: number;
  readonly place: string;
  readonly visit: LubricationVisitInput;
  readonly by: string;
  /** Proves that it was made in their session. */
  readonly seal?: string | undefined;
}

/** A visit that the server would not have, with its words. */
export interface RefusedVisit extends WaitingVisit {
  readonly message: string;
  /** Somebody else has made one just now: this one can be kept beside it. */
  readonly besides: boolean;
}

const KEPT = keptList<WaitingVisit>("iron-visits-waiting", (w) => w.visit.key);

/** Visits on their way: kept in the browser, sent in order, each once. */
@Injectable({ providedIn: "root" })
export class VisitQueue {
  private readonly api = inject(Api);
  private readonly refusals = refusals<RefusedVisit>("iron-visits-refused", (r) => r.visit.key);
  readonly refused = this.refusals.all;
  /** The point as the server answered it last. */
  readonly taken = signal<LubricationPointRecord | null>(null);
  private readonly outbox = new Outbox<WaitingVisit, LubricationPointRecord>({
    keyOf: (w) => w.visit.key,
    send: ({ pointId: id, visit: body, by, seal }) => this.api.call("visitPoint", { params: { id }, body, by, seal }),
    sealable: ({ pointId: id, visit }) => ({
      address: this.api.address("visitPoint", { params: { id } }),
      body: JSON.stringify(visit),
    }),
    taken: (point) => this.taken.set(point),
    refused: ({ detail, current }, w) => this.refusals.add({ ...w, message: detail, besides: Boolean(current) }),
    changed: (waiting, gone) => KEPT.keep(waiting, gone),
  });
  readonly waiting = this.outbox.waiting.asReadonly();
  readonly offline = this.outbox.offline.asReadonly();

  constructor() {
    this.outbox.recall(KEPT.all());
    this.outbox.flush();
    const told = ({ visit, place, by, message }: RefusedVisit): NotTaken => ({
      ...{ key: visit.key, what: `Visit: ${place}, ${by}`, message, path: "/rounds" },
      file: () => fileOf({ place, by, visit }),
      read: () => this.read(visit.key),
    });
    inject(Waiting).tell(computed(() => this.refused().map(told)));
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
    this.refusals.read(key);
  }
}
