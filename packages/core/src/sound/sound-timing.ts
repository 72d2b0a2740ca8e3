import type { SoundPlan, SoundTiming } from "./sound-plan";

const DB = 10 / Math.LN10;
/** A way takes longer than its length by its feed for getting up to speed: at most by so much, s. */
const MOST_RAMP_S = 0.6;
const STEP_S = 0.02;

/**
 * Finds where in a recording the motion lies: nobody presses two buttons at once. Of all beginnings and lengths the one
 * whose ways differ most from the standing between them.
 * @param level - power of the recording, piece by piece
 * @param rate - pieces a second
 * @param plan - how the axis was run
 * @returns when it sets off and how long each way takes; with a contrast near nothing where it cannot be told
 * @example
 * const plan = { stillS: 1, feedMmMin: 6000, fromMm: 0, strokeMm: 100, passes: 2, dwellS: 0.5 };
 * const level = Float64Array.from({ length: 450 }, (_, i) => (i >= 120 && i < 220) || (i >= 270 && i < 370) ? 1 : 0.01);
 * soundTiming(level, 100, plan).startS // 1.2
 */
export function soundTiming(level: Float64Array, rate: number, plan: SoundPlan): SoundTiming {
  const sums = new Float64Array(level.length + 1);
  for (let i = 0; i < level.length; i += 1) sums[i + 1] = sums[i] + DB * Math.log(level[i] + 1e-14);
  const at = (s: number): number => sums[Math.min(level.length, Math.max(0, Math.round(s * rate)))];
  const total = level.length / rate;
  const way = (60 * plan.strokeMm) / plan.feedMmMin;
  let best: SoundTiming = { startS: plan.stillS, eachS: way + plan.dwellS, contrastDb: -Infinity };
  for (let ramp = 0; ramp <= MOST_RAMP_S; ramp += STEP_S) {
    const eachS = way + ramp + plan.dwellS;
    const latest = total - plan.passes * eachS + plan.dwellS;
    for (let startS = 0.2; startS <= Math.max(0.2, latest) + 1e-9; startS += STEP_S) {
      const contrastDb = contrast(at, { rate, startS, eachS, total, plan, cut: Math.min(0.2 * way, ramp / 2 + 0.02) });
      if (contrastDb > best.contrastDb + 1e-9) best = { startS, eachS, contrastDb };
    }
  }
  const round = (x: number): number => Math.round(x * 1000) / 1000;
  return { startS: round(best.startS), eachS: round(best.eachS), contrastDb: best.contrastDb };
}

/** Mean level of the ways less that of the standing between and before, dB. */
function contrast(
  at: (s: number) => number,
  {
    rate,
    startS,
    eachS,
    total,
    plan,
    cut,
  }: {
    readonly rate: number;
    readonly startS: number;
    readonly eachS: number;
    readonly total: number;
    readonly plan: SoundPlan;
    readonly cut: number;
  },
): number {
  let [moving, movingS] = [0, 0];
  let [still, stillS] = [at(startS - 0.02) - at(0), startS - 0.02];
  for (let k = 0; k < plan.passes; k += 1) {
    const from = startS + k * eachS;
    const to = from + eachS - plan.dwellS;
    if (to > total + 0.05) return -Infinity;
    moving += at(to - cut) - at(from + cut);
    movingS += to - from - 2 * cut;
    const next = Math.min(total, to + plan.dwellS - 0.02);
    still += Math.max(0, next - to - 0.02) > 0 ? at(next) - at(to + 0.02) : 0;
    stillS += Math.max(0, next - to - 0.02);
  }
  if (movingS <= 0 || stillS <= 0.1) return -Infinity;
  return (moving / movingS - still / stillS) / rate;
}
