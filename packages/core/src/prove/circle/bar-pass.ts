import { requireBound } from "../../quantity";
import type { CircleDirection, CircleTrace } from "./circle-trace";

/** One way round as the bar sent it, from before the run in till after the run out. */
export interface BarPass {
  readonly direction: CircleDirection;
  readonly rateHz: number;
  /** Length of the bar less its nominal one, mm; NaN where it said nothing. */
  readonly values: Float64Array;
  /** Samples that never came, by their numbers. */
  readonly lost: readonly { readonly from: number; readonly count: number }[];
}

/** What the program of a circle commands, as far as a pass is read by it. */
export interface PassCommand {
  readonly radiusMm: number;
  readonly feedMmMin: number;
  readonly startDeg: number;
  readonly spanDeg: number;
  readonly overrunDeg: number;
  readonly leadMm: number;
}

/** What is wrong with a pass; those that spoil it leave no trace. */
export type PassTrouble =
  /** The bar never came in to the circle. */
  | { readonly code: "no-start" }
  /** It said nothing any more, so far round, degrees of data. */
  | { readonly code: "fell-off"; readonly afterDeg: number }
  /** It was read on when the circle had ended: where it ended is not known. */
  | { readonly code: "no-end" }
  /** It went round at another feed than was commanded: by this factor. */
  | { readonly code: "other-feed"; readonly factor: number }
  /** Samples that are missing, degrees of data without any. */
  | { readonly code: "gap"; readonly fromDeg: number; readonly deg: number };

export interface ReadPass {
  /** Null where it cannot be used. */
  readonly trace: CircleTrace | null;
  readonly troubles: readonly PassTrouble[];
}

/** Part of the run in that still counts as outside. */
const OUTSIDE = 0.5;
/** Samples inside in a row that make a start: a bumped bar makes none. */
const STEADY = 5;
/** A feed further off than this was not at 100 %. */
const FEED_OFF = 0.02;
/** Degrees without a sample that are said. */
const GAP_DEG = 1;

interface Ends {
  /** First and last sample on the circle. */
  readonly first: number;
  readonly last: number;
  /** When the arc began and ended, in samples. */
  readonly begins: number;
  readonly ends: number;
  readonly fell: boolean;
}

/** Where the run in ends and the run out begins: the bar shows each as a ramp of the feed. */
function endsOf({ values, rateHz, lost }: BarPass, command: PassCommand): Ends | null {
  const far = OUTSIDE * command.leadMm;
  const inside = (i: number): boolean => Math.abs(values[i]) < far;
  let first = 0;
  const steady = (): boolean => {
    for (let k = 0; k < STEADY; k += 1) if (!inside(first + k)) return false;
    return true;
  };
  while (first < values.length && !steady()) first += 1;
  if (first >= values.length) return null;
  let last = values.length - 1;
  while (last > first && !inside(last)) last -= 1;
  const ramp = command.feedMmMin / 60 / rateHz;
  // What the ramps come down to: the seat need not stand in the centre.
  const settled = Math.ceil((2 * far) / ramp);
  const base = (from: number): number => {
    const near = Array.from(values.slice(Math.max(0, from), from + 5)).filter(Number.isFinite);
    return near.length ? near.reduce((a, b) => a + b, 0) / near.length : 0;
  };
  const rose = values[last] - base(last - settled);
  // Where it runs out it is seen to rise; it falls off from where it is. What never came may hide either.
  const cut = lost.some(({ from, count }) => from <= last + 1 && last < from + count);
  return {
    first,
    last,
    begins: first + Math.max(0, values[first] - base(first + settled)) / ramp,
    ends: last - Math.max(0, rose) / ramp,
    fell: !cut && rose < Math.min(0.3 * far, 3 * ramp) && !(rose > 1.2 * ramp) && last < values.length - 1,
  };
}

/**
 * Turns what a bar sent into a circle: it tells neither angle nor feed, so that both come from when it ran in and out.
 * @param pass - one way round
 * @param command - what the program commands
 * @returns the trace between the overruns, and what was wrong; null where it cannot be used
 * @throws BoundError where it is not read often enough to see it run in
 * @example
 * const values = Float64Array.from({ length: 400 }, () => NaN);
 * const command = { radiusMm: 50, feedMmMin: 3000, startDeg: 0, spanDeg: 360, overrunDeg: 45, leadMm: 1.5 };
 * readPass({ direction: 1, rateHz: 100, values, lost: [] }, command).troubles[0].code // 'no-start'
 */
export function readPass(pass: BarPass, command: PassCommand): ReadPass {
  const { direction, rateHz, values } = pass;
  requireBound({ "samples a second": rateHz }, rateHz >= 50 && rateHz <= 10_000, "from 50 to 10000 Hz");
  const ends = endsOf(pass, command);
  if (!ends) return { trace: null, troubles: [{ code: "no-start" }] };
  const totalDeg = command.spanDeg + 2 * command.overrunDeg;
  const commanded = ((command.feedMmMin / 60 / command.radiusMm) * (180 / Math.PI)) / rateHz;
  const open = ends.last === values.length - 1;
  // Without its end the feed is taken for what was commanded.
  const perSample = ends.fell || open ? commanded : totalDeg / (ends.ends - ends.begins);
  const along = (i: number): number => (i - ends.begins) * perSample - command.overrunDeg;
  const factor = perSample / commanded;
  const troubles: PassTrouble[] = [];
  if (ends.fell) troubles.push({ code: "fell-off", afterDeg: Math.max(0, along(ends.last)) });
  else if (open) troubles.push({ code: "no-end" });
  else if (Math.abs(factor - 1) > FEED_OFF) troubles.push({ code: "other-feed", factor });
  const angles: number[] = [];
  const deviations: number[] = [];
  let before = 0;
  for (let i = ends.first; i <= ends.last; i += 1) {
    const deg = along(i);
    if (deg < 0 || deg > command.spanDeg || !Number.isFinite(values[i])) continue;
    if (deg - before > GAP_DEG) troubles.push({ code: "gap", fromDeg: before, deg: deg - before });
    before = deg;
    const from = direction === 1 ? command.startDeg + deg : command.startDeg + command.spanDeg - deg;
    angles.push((from * Math.PI) / 180);
    deviations.push(values[i]);
  }
  const spoilt = ends.fell || open || angles.length < 100;
  const trace = spoilt
    ? null
    : { direction, angles: Float64Array.from(angles), deviations: Float64Array.from(deviations) };
  return { trace, troubles };
}
