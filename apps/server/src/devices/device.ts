import {
  advanceDevice,
  enqueue,
  mountIndicator,
  nextSample,
  startDevice,
  stopDevice,
  viewDevice,
  zeroIndicator,
  type ApproachTrack,
  type DeviceMove,
  type DeviceState,
  type Indicator,
  type Station,
  type VirtualAxis,
} from "@iron/core";
import type { DeviceSnapshot } from "@iron/contract";
import { ProblemError } from "../http/problem-error";

/** What is kept of a simulated device, so that a restarted server finds the machine where it stood. */
export interface KeptDevice {
  readonly state: DeviceState;
  readonly mountedRunId: number | null;
}

export interface DeviceHooks {
  /** A program's dwell has ended: take the reading of this step. */
  dwelt(runId: number, step: number): Promise<void>;
  keep(kept: KeptDevice): Promise<void>;
  failed(error: unknown): void;
}

/** Who looks on: gets each snapshot, and hears when the device is closed. */
export interface Watcher {
  see(snapshot: DeviceSnapshot): void;
  end(): void;
}

export const PLAIN_INDICATOR: Indicator = {
  kind: "digital",
  resolutionMm: 0.001,
  tipAngleDeg: 0,
  rangeMm: 10,
};
const TICK_MS = 33;
/** Motor force that counts as full load on the simulated drive, N. */
const FULL_LOAD_N = 3000;

/**
 * A simulated axis with its indicator, living in real time (or `speed` times it; Infinity finishes
 * each command before it answers). Watchers get a snapshot each tick.
 */
export class Device {
  private state: DeviceState;
  private mountedRun: number | null;
  private programRun: number | null = null;
  /** How the axis stood when it was last read. */
  private readTrack: ApproachTrack | null = null;
  private stopped = "";
  private sequence = 0;
  private timer: NodeJS.Timeout | null = null;
  private lastTick = 0;
  private working: Promise<void> = Promise.resolve();
  private readonly watchers = new Set<Watcher>();

  constructor(
    readonly model: VirtualAxis,
    kept: KeptDevice | null,
    private readonly live: { readonly speed: number; readonly hooks: DeviceHooks },
  ) {
    // What was still to come when the server ended does not start by itself again.
    this.state = kept ? { ...kept.state, queue: [] } : startDevice(model, PLAIN_INDICATOR);
    this.mountedRun = kept?.mountedRunId ?? null;
  }

  snapshot(): DeviceSnapshot {
    this.state = nextSample(this.state);
    const view = viewDevice(this.model, this.state);
    this.sequence += 1;
    return {
      sequence: this.sequence,
      atMs: Date.now(),
      simulated: true,
      commandMm: view.commandMm,
      displayMm: view.displayMm,
      moving: view.moving,
      dwelling: view.dwelling,
      queued: this.state.queue.length,
      loadPercent: Math.round((view.forceN / FULL_LOAD_N) * 1000) / 10,
      track: view.track,
      mountedRunId: this.mountedRun,
      programRunId: this.programRun,
      stopped: this.stopped,
      fresh: this.state.track !== this.readTrack,
      resolutionMm: this.state.indicator.resolutionMm,
    };
  }

  /** Shows `watcher` each snapshot until the returned function is called. */
  watch(watcher: Watcher): () => void {
    this.watchers.add(watcher);
    watcher.see(this.snapshot());
    this.wake();
    return () => this.watchers.delete(watcher);
  }

  /** Queues moves; with a run they are its program and are read at each dwell. */
  async command(moves: readonly DeviceMove[], programRunId: number | null = null): Promise<void> {
    this.state = enqueue(this.model, this.state, moves);
    this.programRun = programRunId;
    this.stopped = "";
    if (this.live.speed === Infinity) await this.pass(Infinity);
    else this.wake();
  }

  /** Where the axis will stand when all that is queued is done. */
  destinationMm(): number {
    const last = this.state.queue.findLast((m) => m.kind === "move");
    return last?.kind === "move" ? last.toMm : this.state.axis.commandMm;
  }

  async stop(): Promise<void> {
    this.state = stopDevice(this.model, this.state);
    this.programRun = null;
    await this.keep();
  }

  /** Resolves once all that is queued is done, or after `patienceMs`. */
  async still(patienceMs: number): Promise<void> {
    const until = performance.now() + patienceMs;
    while (this.state.queue.length > 0 && performance.now() < until)
      await new Promise((resolve) => setTimeout(resolve, TICK_MS));
  }

  /** Sets the face to zero; with a run, sets the stand up for it and takes its indicator. */
  async zero(forRun?: {
    readonly id: number;
    readonly indicator: Indicator;
    readonly station: Station;
    readonly perTableMm: number;
  }): Promise<void> {
    if (forRun && forRun.id !== this.mountedRun) {
      this.state = mountIndicator(this.model, {
        state: this.state,
        indicator: forRun.indicator,
        at: {
          station: forRun.station,
          perTableMm: forRun.perTableMm,
        },
      });
      this.mountedRun = forRun.id;
    }
    this.state = zeroIndicator(this.model, this.state);
    await this.keep();
  }

  /** What stands here has been read: the same approach is not read twice. */
  markRead(): void {
    this.readTrack = this.state.track;
  }

  close(): void {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    for (const watcher of this.watchers) watcher.end();
    this.watchers.clear();
  }

  private wake(): void {
    if (this.timer) return;
    this.lastTick = performance.now();
    this.timer = setInterval(() => this.tick(), TICK_MS);
  }

  private tick(): void {
    const now = performance.now();
    const seconds = ((now - this.lastTick) / 1000) * Math.min(this.live.speed, 1e6);
    this.lastTick = now;
    this.working = this.working
      .then(() => this.pass(seconds))
      .then(() => {
        if (this.watchers.size > 0) {
          const snapshot = this.snapshot();
          for (const watcher of this.watchers) watcher.see(snapshot);
        } else if (this.state.queue.length === 0 && this.timer) {
          clearInterval(this.timer);
          this.timer = null;
        }
      })
      .catch((error: unknown) => this.live.hooks.failed(error));
  }

  /** Lets time pass, taking a program's readings as their dwells end. Infinity: until all is done. */
  private async pass(seconds: number): Promise<void> {
    const wasBusy = this.state.queue.length > 0;
    let left = seconds;
    while (left > 0 && (seconds !== Infinity || this.state.queue.length > 0)) {
      const { state, leftS, dwelt } = advanceDevice(this.model, this.state, left);
      this.state = state;
      left = leftS;
      if (dwelt !== null && this.programRun !== null) await this.readProgramStep(this.programRun, dwelt);
    }
    if (wasBusy && this.state.queue.length === 0) {
      this.programRun = null;
      await this.keep();
    }
  }

  private async readProgramStep(runId: number, step: number): Promise<void> {
    try {
      await this.live.hooks.dwelt(runId, step);
      await this.keep();
    } catch (error) {
      await this.stop();
      this.stopped = `The program was stopped: ${sayOf(error)} The axis stands where it was; read this step by hand, or run what is left again.`;
      this.live.hooks.failed(error);
    }
  }

  private keep(): Promise<void> {
    return this.live.hooks.keep({
      state: this.state,
      mountedRunId: this.mountedRun,
    });
  }
}

/** What may be said of an error to who watches: a problem’s own words, and no more. */
function sayOf(error: unknown): string {
  return error instanceof ProblemError ? error.problem.detail : "the reading could not be kept.";
}
