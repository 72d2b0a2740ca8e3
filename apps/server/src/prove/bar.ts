import {
  planeOfMachine,
  readPass,
  soundVirtualMachine,
  type BarPass,
  type CircleDirection,
  type VirtualMachine,
} from "@iron/core";
import type { BarBatch, CirclePlane, MachineWithAxes } from "@iron/contract";
import { uniformNumber } from "../diagnosis/chance";
import type { DeviceHub } from "../devices/device-hub";
import { conflict, problem } from "../http/problem-error";
import type { Machines } from "../machine/machines";
import type { Db } from "../store/database";
import { fromJson } from "../store/columns";
import type { WorkPool } from "../threads/pool";
import type { Circles } from "./circles";

/** Samples a second of the stand-in. */
const RATE_HZ = 200;
/** Further from its nominal length it says nothing, mm. */
const RANGE_MM = 1;
const BATCH = 20;
const TICK_MS = 50;
/** An hour of reading. */
const MOST_SAMPLES = 3600 * RATE_HZ;

export interface BarWatcher {
  see(batch: BarBatch): void;
  end(): void;
}

interface Reading {
  readonly direction: CircleDirection;
  readonly values: Float64Array;
  readonly lost: { from: number; count: number }[];
  readonly who: string;
  timer: NodeJS.Timeout | null;
  /** Its end has come: it is kept once. */
  kept: boolean;
  sent: number;
  /** Part of its batches that its radio loses: decided as they are sent. */
  readonly losesBatches: number;
  due: number;
  last: number;
}

/** The bar that ships with it: it reads the virtual machines, a batch at a time, numbered, as a bar with a radio would. */
export class Bars {
  private readonly readings = new Map<number, Reading>();
  private readonly watchers = new Map<number, Set<BarWatcher>>();

  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly hub: DeviceHub;
      readonly circles: Circles;
      readonly pool: WorkPool;
      readonly speed: number;
      readonly failed: (error: unknown) => void;
    },
  ) {}

  /** Begins one way round; it is kept when it has ended. */
  async read(planeId: number, direction: CircleDirection, who: string): Promise<{ samples: number; seconds: number }> {
    const { circles, pool } = this.needs;
    const { session, plane } = await circles.plane(planeId);
    if (session.state !== "open") throw conflict("This session has ended. Begin a new one.", session);
    if (this.readings.has(planeId))
      throw conflict("The bar is reading this plane already. Wait for its end, or stop it.");
    const seconds = secondsOf(plane);
    if (seconds * RATE_HZ > MOST_SAMPLES)
      throw problem(422, {
        title: "Too long",
        detail: `At ${plane.plan.feedMmMin} mm/min one way round takes ${Math.round(seconds / 60)} minutes: the bar reads for 60 at most. Take a smaller radius or more feed.`,
      });
    const machine = await machineOf(this.needs.db, await this.needs.machines.withAxes(session.machineId));
    const [a, b] = await Promise.all(plane.axisIds.map((id) => this.needs.hub.device(id)));
    const values = await pool.run("barPass", {
      plane: planeOfMachine(machine, [
        { letter: plane.plan.letters[0], axis: a.model },
        { letter: plane.plan.letters[1], axis: b.model },
      ]),
      bar: machine.bar,
      pass: { ...plane.plan, direction, rateHz: RATE_HZ, rangeMm: RANGE_MM, seed: Math.floor(1e6 * uniformNumber()) },
    });
    if (this.readings.has(planeId))
      throw conflict("The bar is reading this plane already. Wait for its end, or stop it.");
    const reading: Reading = {
      direction,
      values,
      lost: [],
      who,
      timer: null,
      kept: false,
      sent: 0,
      losesBatches: machine.losesBatches,
      due: 0,
      last: performance.now(),
    };
    this.readings.set(planeId, reading);
    if (this.needs.speed === Infinity) {
      reading.due = values.length;
      await this.pass(planeId, reading);
    } else reading.timer = setInterval(() => this.tick(planeId, reading), TICK_MS);
    return { samples: values.length, seconds: values.length / RATE_HZ / Math.min(this.needs.speed, 1e6) };
  }

  isReading(planeId: number): boolean {
    return this.readings.has(planeId);
  }

  stop(planeId: number): void {
    const reading = this.readings.get(planeId);
    if (!reading) return;
    this.drop(planeId, reading);
    this.tell(planeId, { ...this.batch(planeId, reading, []), ended: true });
  }

  watch(planeId: number, watcher: BarWatcher): () => void {
    const all = this.watchers.get(planeId) ?? new Set();
    this.watchers.set(planeId, all.add(watcher));
    // Who comes back after its end hears that it has ended.
    if (!this.readings.has(planeId))
      watcher.see({ planeId, direction: 1, rateHz: RATE_HZ, from: 0, values: [], of: 0, ended: true });
    return () => {
      all.delete(watcher);
      if (all.size === 0) this.watchers.delete(planeId);
    };
  }

  close(): void {
    for (const [id, reading] of this.readings) this.drop(id, reading);
    for (const all of this.watchers.values()) for (const w of all) w.end();
    this.watchers.clear();
  }

  private drop(planeId: number, reading: Reading): void {
    if (reading.timer) clearInterval(reading.timer);
    reading.timer = null;
    this.readings.delete(planeId);
  }

  private tick(planeId: number, reading: Reading): void {
    const now = performance.now();
    reading.due += ((now - reading.last) / 1000) * RATE_HZ * this.needs.speed;
    reading.last = now;
    this.pass(planeId, reading).catch((error: unknown) => {
      this.stop(planeId);
      this.needs.failed(error);
    });
  }

  private batch(planeId: number, reading: Reading, values: (number | null)[]): BarBatch {
    const { direction, sent } = reading;
    return { planeId, direction, rateHz: RATE_HZ, from: sent, values, of: reading.values.length, ended: false };
  }

  /** Sends what is due; at the end the pass is kept before it is said that it has ended. */
  private async pass(planeId: number, reading: Reading): Promise<void> {
    while (reading.sent < Math.min(reading.due, reading.values.length)) {
      const part = Array.from(reading.values.subarray(reading.sent, reading.sent + BATCH), (v) =>
        Number.isFinite(v) ? Math.round(1e5 * v) / 100 : null,
      );
      // What its radio loses nobody gets: the next batch’s number tells.
      if (reading.losesBatches > 0 && uniformNumber() < reading.losesBatches) {
        reading.lost.push({ from: reading.sent, count: part.length });
        reading.values.fill(NaN, reading.sent, reading.sent + part.length);
      } else this.tell(planeId, this.batch(planeId, reading, part));
      reading.sent += part.length;
    }
    const done = reading.sent >= reading.values.length;
    if (!done || reading.kept || this.readings.get(planeId) !== reading) return;
    reading.kept = true;
    if (reading.timer) clearInterval(reading.timer);
    // It reads on, for whoever asks, till what it read is kept and worked out.
    try {
      await this.keep(planeId, reading);
    } finally {
      this.drop(planeId, reading);
      this.tell(planeId, { ...this.batch(planeId, reading, []), ended: true });
    }
  }

  private async keep(planeId: number, reading: Reading): Promise<void> {
    const { plane } = await this.needs.circles.plane(planeId);
    const pass: BarPass = { direction: reading.direction, rateHz: RATE_HZ, values: reading.values, lost: reading.lost };
    const { trace, troubles } = readPass(pass, plane.plan);
    await this.needs.circles.keep(
      planeId,
      [{ direction: reading.direction, source: "bar", trace, troubles }],
      reading.who,
    );
  }

  private tell(planeId: number, batch: BarBatch): void {
    for (const watcher of this.watchers.get(planeId) ?? []) watcher.see(batch);
  }
}

/** How long one way round takes, s. */
function secondsOf({ plan }: CirclePlane): number {
  const round = ((plan.spanDeg + 2 * plan.overrunDeg) * Math.PI * plan.radiusMm) / 180;
  return ((round + 2 * plan.leadMm) / plan.feedMmMin) * 60 + 2 * plan.dwellS;
}

/** The virtual machine of an id; one in ordinary order where none was given: the same for all of its planes. */
async function machineOf(db: Db, { id, axes }: MachineWithAxes): Promise<VirtualMachine> {
  const row = await db.selectFrom("virtual_machine").select("model").where("machine_id", "=", id).executeTakeFirst();
  if (row) return fromJson(row.model);
  return soundVirtualMachine(axes.map((a) => a.config.letter).sort(), id);
}
