import { computed, inject, Injectable, signal } from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import type { Axis, LinkShare, MachineWithAxes, RunSummary, History } from "@iron/contract";
import { isSplitTest, type AxisConfig } from "@iron/core";
import { forkJoin, Subject, Subscription } from "rxjs";
import { Api } from "../../data/api";
import { Changes } from "../../data/changes";
import { saidIn } from "../../data/problems";

/** Either of a test or typed in a job. */
export type LastLoss = Pick<RunSummary, "kind" | "at" | "by" | "reversalValueMm" | "expandedMm"> & {
  readonly runId: number | null;
  readonly jobId: number | null;
};

/** The machine and axis that the stations work on, with the axis’ history; one for each axis frame. */
@Injectable()
export class AxisContext {
  private readonly api = inject(Api);
  private readonly machineState = signal<MachineWithAxes | null>(null);
  private readonly historyState = signal<History | null>(null);
  private readonly axisId = signal(0);
  private loading: Subscription | null = null;
  private readonly linksState = signal<readonly LinkShare[]>([]);
  private readonly deviceState = signal<"simulated" | "real" | "none">("none");
  /** Something was measured, entered or set on this axis. */
  readonly changed = new Subject<void>();
  readonly error = signal("");
  /** Words that a station puts to links of the chain while it is open. */
  readonly marks = signal<Readonly<Partial<Record<string, string>>>>({});
  /** The axis as it is being edited: the chain is drawn from it. */
  readonly preview = signal<AxisConfig | null>(null);
  /** Whether its data are under somebody’s hand here, though what is entered could not be kept so. */
  editing: () => boolean = () => false;
  /** The station that the open page belongs to, where its address does not tell. */
  readonly station = signal<string | null>(null);
  /** What each link is known to lose. */
  readonly links = this.linksState.asReadonly();
  readonly device = this.deviceState.asReadonly();
  readonly machine = this.machineState.asReadonly();
  readonly history = this.historyState.asReadonly();
  readonly axis = computed<Axis | null>(() => this.machineState()?.axes.find((a) => a.id === this.axisId()) ?? null);
  readonly axes = computed(() =>
    (this.machineState()?.axes ?? []).filter((a) => !a.retiredAt || a.id === this.axisId()),
  );
  readonly finished = computed(() =>
    (this.historyState()?.runs ?? []).filter(
      (r) => r.state === "finished" && r.reversalValueMm !== null && !isSplitTest(r.kind),
    ),
  );
  /** The last value of the whole chain, from a test or typed in a job. */
  readonly last = computed<LastLoss | null>(() => {
    const typed = (this.historyState()?.typed ?? []).filter((t) => !isSplitTest(t.kind));
    return (
      [
        ...this.finished().map((r) => ({ ...r, runId: r.id, jobId: null })),
        ...typed.map((t) => ({ ...t, runId: null })),
      ]
        .sort((a, b) => a.at.localeCompare(b.at))
        .at(-1) ?? null
    );
  });
  readonly open = computed(() => (this.historyState()?.runs ?? []).filter((r) => r.state === "running"));
  readonly base = computed(() => `/machines/${this.machineState()?.id}/axes/${this.axisId()}`);

  constructor() {
    inject(Changes)
      .of("axes", "machines", "runs", "readings", "jobs", "cases", "series")
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.look());
  }

  load(machineId: number, axisId: number): void {
    const same = this.machineState()?.id === machineId;
    if (!same) this.machineState.set(null);
    if (this.axisId() !== axisId) {
      this.historyState.set(null);
      this.linksState.set([]);
    }
    this.axisId.set(axisId);
    this.error.set("");
    this.reloadLedger();
    if (this.deviceState() === "none") this.lookForDevice();
    this.loading?.unsubscribe();
    this.loading = forkJoin({
      machine: this.api.call("machine", { params: { id: machineId } }),
      history: this.api.call("history", { params: { id: axisId } }),
    }).subscribe({
      next: ({ machine, history }) => {
        this.machineState.set(machine);
        this.historyState.set(history);
        if (!machine.axes.some((a) => a.id === axisId)) this.error.set(`${machine.nickname} has no axis ${axisId}.`);
      },
      error: saidIn(this.error),
    });
  }

  /** Shares of the links, for the chain strip: nice to have, never in the way. */
  reloadLedger(): void {
    const id = this.axisId();
    this.api.call("axisLedger", { params: { id } }).subscribe({
      next: ({ axisId, links }) => {
        if (axisId === this.axisId()) this.linksState.set(links);
      },
      error: () => this.linksState.set([]),
    });
  }

  /**
   * Looks what others have done with the axis. What is as it was stays the very same: a form that is half filled in
   * hangs on it. While its data are being edited they are not touched: keeping them says if somebody was faster.
   */
  look(): void {
    const [before, axisId] = [this.machineState(), this.axisId()];
    if (!before || !this.historyState()) return;
    const params = { id: before.id };
    this.loading?.unsubscribe();
    this.loading = forkJoin({
      machine: this.api.call("machine", { params }),
      history: this.api.call("history", { params: { id: axisId } }),
    }).subscribe({
      next: ({ machine, history }) => {
        if (!this.editing() && !isSame(machine, before)) this.machineState.set(machine);
        if (isSame(history, this.historyState())) return;
        this.historyState.set(history);
        this.reloadLedger();
      },
      error: () => undefined,
    });
  }

  private lookForDevice(): void {
    const shop = this.api.call("shop");
    shop.subscribe({
      next: ({ demo }) => this.deviceState.set(demo ? "simulated" : "none"),
      error: () => this.deviceState.set("none"),
    });
  }

  reload(): void {
    const machine = this.machineState();
    if (machine) this.load(machine.id, this.axisId());
    this.changed.next();
  }
}

const isSame = (one: unknown, other: unknown): boolean => JSON.stringify(one) === JSON.stringify(other);
