/** What the axis is made to do while it is listened to: it stands, then goes to and fro at one feed. */
export interface VirtualSoundRun {
  /** How long it stands first, drives on, s. */
  readonly stillS: number;
  readonly feedMmMin: number;
  readonly fromMm: number;
  readonly strokeMm: number;
  /** Ways, to and fro alternately. */
  readonly passes: number;
  /** How long it stands at either end, s. */
  readonly dwellS: number;
  /** How fast it gets up to its feed, mm/s². */
  readonly accelMmS2: number;
  /** The motor runs uncoupled, as if it drove the axis so. */
  readonly motorAlone?: boolean | undefined;
}

/** Where the member is and how fast, sample by sample. */
export interface SoundMotion {
  readonly rate: number;
  readonly placeMm: Float64Array;
  /** With its sign, mm/s. */
  readonly speedMmS: Float32Array;
  /** Samples at which it sets off. */
  readonly starts: readonly number[];
}

/** How far it has come of a way, after so many seconds: up to speed, along, and down again. */
function alongAt(t: number, { stroke, feed, accel }: { stroke: number; feed: number; accel: number }): number {
  const top = Math.min(feed, Math.sqrt(stroke * accel));
  const ramp = top / accel;
  const total = stroke / top + ramp;
  if (t <= 0) return 0;
  if (t >= total) return stroke;
  if (t < ramp) return 0.5 * accel * t * t;
  if (t > total - ramp) return stroke - 0.5 * accel * (total - t) ** 2;
  return top * (t - ramp / 2);
}

/**
 * The motion of a run.
 * @param run - what it is made to do
 * @param rate - samples a second
 * @returns place and speed at every sample, and where it sets off
 * @example
 * const run = { stillS: 1, feedMmMin: 6000, fromMm: 0, strokeMm: 100, passes: 2, dwellS: 0.5, accelMmS2: 2000 };
 * soundMotion(run, 1000).starts // [1000, 2550]
 */
export function soundMotion(run: VirtualSoundRun, rate: number): SoundMotion {
  const feed = run.feedMmMin / 60;
  const { strokeMm: stroke, accelMmS2: accel } = run;
  const top = Math.min(feed, Math.sqrt(stroke * accel));
  const each = stroke / top + top / accel + run.dwellS;
  const count = Math.round((run.stillS + run.passes * each) * rate);
  const placeMm = new Float64Array(count).fill(run.fromMm);
  const speedMmS = new Float32Array(count);
  const starts = Array.from({ length: run.passes }, (_, k) => Math.round((run.stillS + k * each) * rate));
  for (let i = starts[0] ?? count; i < count; i += 1) {
    const k = Math.min(run.passes - 1, Math.floor((i / rate - run.stillS) / each));
    const along = alongAt(i / rate - run.stillS - k * each, { stroke, feed, accel });
    placeMm[i] = run.fromMm + (k % 2 === 0 ? along : stroke - along);
    speedMmS[i] = i > 0 ? (placeMm[i] - placeMm[i - 1]) * rate : 0;
  }
  return { rate, placeMm, speedMmS, starts };
}
