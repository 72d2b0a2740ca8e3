import { inQuadrature, mean, requireBound } from "../../quantity";
import type { KnownLoss } from "./may-compensate";

/** Way along the travel, by equal parts of it. */
export interface WorkAlong {
  /** mm of way in each part. */
  readonly wayMm: readonly number[];
  /** Part of all way that lies beyond the travel: the zero of the program is not where it was said to be. */
  readonly outside: number;
}

/**
 * Where along the travel an axis works: each stroke laid over equal parts of it.
 * @param strokes - from and to, mm from the program’s zero
 * @param options - `zeroMm`: where that zero stands on the axis; `travelMm`; `parts`: how many, 40 unless said
 * @returns way by part, mm
 * @throws BoundError without strokes or with a travel that is none
 * @example workAlong([{ fromMm: 0, toMm: 100 }], { zeroMm: 200, travelMm: 400, parts: 4 }).wayMm // [0, 0, 100, 0]
 */
export function workAlong(
  strokes: readonly { readonly fromMm: number; readonly toMm: number }[],
  { zeroMm, travelMm, parts = 40 }: { readonly zeroMm: number; readonly travelMm: number; readonly parts?: number },
): WorkAlong {
  requireBound({ "number of strokes": strokes.length }, strokes.length > 0, "at least 1");
  requireBound({ travel: travelMm }, travelMm > 0, "above 0 mm");
  const width = travelMm / parts;
  const wayMm = Array.from({ length: parts }, () => 0);
  let [all, inside] = [0, 0];
  for (const { fromMm, toMm } of strokes) {
    const low = Math.min(fromMm, toMm) + zeroMm;
    const high = Math.max(fromMm, toMm) + zeroMm;
    all += high - low;
    const first = Math.max(0, Math.floor(low / width));
    const last = Math.min(parts - 1, Math.floor(high / width));
    for (let i = first; i <= last; i += 1) {
      const over = Math.max(0, Math.min(high, (i + 1) * width) - Math.max(low, i * width));
      wayMm[i] += over;
      inside += over;
    }
  }
  return { wayMm, outside: all > 0 ? Math.max(0, 1 - inside / all) : 0 };
}

export interface SpreadWork {
  /** Shortest stretch that holds most of the way, mm. */
  readonly bandMm: readonly [number, number];
  /** Part of the way in it. */
  readonly share: number;
  /** Most of the way lies on less than half of the travel. */
  readonly narrow: boolean;
  /** How far to move the work for each further place, mm, so that the places lie side by side; empty where it is spread. */
  readonly shiftsMm: readonly number[];
  /** What the hardest worked part of the screw would get, as a part of what it gets now. */
  readonly relief: number;
  /** Lost more where it works than elsewhere, mm, with U; null where that was not measured on both. */
  readonly worn: { readonly moreMm: number; readonly uMm: number } | null;
}

const MOST = 0.8;
const NARROW = 0.5;

/**
 * Would the screw live longer if the work were laid elsewhere on the table? The stretch that is worked, how many times it
 * fits on the travel, and what the hardest worked part would get if the places took turns.
 * @param work - where along the travel it works
 * @param travelMm - travel of the axis, mm
 * @param losses - reversal along the travel, mm, where it was measured
 * @returns stretch, shifts, relief, and whether it is worn there already
 * @throws BoundError where nothing works on the travel
 * @example spreadWork({ wayMm: [0, 0, 8, 8, 0, 0, 0, 0], outside: 0 }, 400, []).shiftsMm.length > 0 // true
 */
export function spreadWork(work: WorkAlong, travelMm: number, losses: readonly KnownLoss[]): SpreadWork {
  const { wayMm } = work;
  const all = wayMm.reduce((a, b) => a + b, 0);
  requireBound({ "way on the travel": all }, all > 0, "above 0 mm: the program’s zero lies elsewhere");
  const width = travelMm / wayMm.length;
  const [from, to] = shortest(wayMm, MOST * all);
  const bandMm = [from * width, to * width] as const;
  const inBand = wayMm.slice(from, to).reduce((a, b) => a + b, 0);
  const narrow = to - from < NARROW * wayMm.length;
  const shifts = narrow ? sideBySide(wayMm) : [];
  const peak = Math.max(...wayMm);
  const spread = wayMm.map((_, i) =>
    mean([0, ...shifts].map((s) => (i >= s && i - s < wayMm.length ? wayMm[i - s] : 0))),
  );
  return {
    bandMm,
    share: inBand / all,
    narrow,
    shiftsMm: shifts.map((s) => s * width),
    relief: shifts.length > 0 ? Math.max(...spread) / peak : 1,
    worn: wornThere(losses, bandMm),
  };
}

/** The shortest run of parts that holds so much. */
function shortest(values: readonly number[], wanted: number): readonly [number, number] {
  let best: readonly [number, number] = [0, values.length];
  let [from, sum] = [0, 0];
  values.forEach((v, to) => {
    sum += v;
    while (sum - values[from] >= wanted - 1e-9) {
      sum -= values[from];
      from += 1;
    }
    if (sum >= wanted - 1e-9 && to + 1 - from < best[1] - best[0]) best = [from, to + 1];
  });
  return best;
}

/** Shifts, in parts, that lay all that is worked side by side without leaving the travel. */
function sideBySide(wayMm: readonly number[]): readonly number[] {
  const first = wayMm.findIndex((v) => v > 0);
  const last = wayMm.findLastIndex((v) => v > 0);
  const length = last - first + 1;
  const fits = Math.floor(wayMm.length / length);
  if (fits < 2) {
    // It does not fit beside itself: to the two ends, as far as they go.
    const free = wayMm.length - length;
    return free < length / 4 ? [] : [-first, wayMm.length - 1 - last].filter((s) => s !== 0);
  }
  // As many beside it as go on either side, so that one place is where it stands now.
  const below = Math.floor(first / length);
  const above = Math.floor((wayMm.length - 1 - last) / length);
  return [
    ...Array.from({ length: below }, (_, i) => -length * (below - i)),
    ...Array.from({ length: above }, (_, i) => length * (i + 1)),
  ];
}

function wornThere(losses: readonly KnownLoss[], [low, high]: readonly [number, number]): SpreadWork["worn"] {
  const there = losses.filter((l) => l.atMm >= low && l.atMm <= high);
  const elsewhere = losses.filter((l) => l.atMm < low || l.atMm > high);
  if (there.length === 0 || elsewhere.length === 0) return null;
  const of = (some: readonly KnownLoss[]): readonly [number, number] => [
    mean(some.map((l) => l.valueMm)),
    inQuadrature(...some.map((l) => l.uMm)) / some.length,
  ];
  const [[a, ua], [b, ub]] = [of(there), of(elsewhere)];
  return { moreMm: a - b, uMm: Math.hypot(ua, ub) };
}
