import type { LoadSample } from "../measure";

export interface LocalSpot {
  readonly fromMm: number;
  readonly toMm: number;
  readonly peakMm: number;
  readonly extra: number;
}

/**
 * Stretches of the travel where the load against the motion is higher than the rest explains, both ways.
 * @param samples - of a traverse to and fro
 * @param fit - what the model leaves of each, its scatter and the friction, all in % of rated
 * @returns the spots along the travel; empty where nothing sticks out
 * @example
 * const samples = [0, 100].map((positionMm) => ({ positionMm, direction: "+", load: 5 }));
 * localSpots(samples, { residuals: [0, 0], scatter: 0.1, friction: 5 }).length // 0
 */
export function localSpots(
  samples: readonly LoadSample[],
  {
    residuals,
    scatter,
    friction,
  }: { readonly residuals: readonly number[]; readonly scatter: number; readonly friction: number },
): LocalSpot[] {
  const places = samples.map((s) => s.positionMm);
  const [low, high] = [Math.min(...places), Math.max(...places)];
  const bins = Math.min(120, Math.max(20, Math.floor(samples.length / 8)));
  const width = (high - low) / bins;
  const sums = { "+": new Float64Array(bins), "-": new Float64Array(bins) };
  const counts = { "+": new Float64Array(bins), "-": new Float64Array(bins) };
  samples.forEach((s, i) => {
    const b = Math.min(bins - 1, Math.floor((s.positionMm - low) / width));
    sums[s.direction][b] += (s.direction === "+" ? 1 : -1) * residuals[i];
    counts[s.direction][b] += 1;
  });
  const extra = Array.from({ length: bins }, (_, b) => {
    const up = sums["+"][b] / Math.max(1, counts["+"][b]);
    const down = sums["-"][b] / Math.max(1, counts["-"][b]);
    const n = counts["+"][b] + counts["-"][b];
    const limit = Math.max((4.5 * scatter) / Math.sqrt(Math.max(1, n)), 0.25 * friction);
    const bothWays = counts["+"][b] > 0 && counts["-"][b] > 0 && Math.min(up, down) > limit / 2;
    return bothWays && (up + down) / 2 > limit ? (up + down) / 2 : 0;
  });
  const spots: LocalSpot[] = [];
  for (let b = 0; b < bins; b += 1) {
    if (extra[b] === 0) continue;
    let end = b;
    while (end + 1 < bins && extra[end + 1] > 0) end += 1;
    let peak = b;
    for (let k = b; k <= end; k += 1) if (extra[k] > extra[peak]) peak = k;
    spots.push({
      fromMm: low + b * width,
      toMm: low + (end + 1) * width,
      peakMm: low + (peak + 0.5) * width,
      extra: extra[peak],
    });
    b = end;
  }
  return spots;
}
