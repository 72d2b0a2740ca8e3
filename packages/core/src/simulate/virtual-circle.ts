import { normalNoise } from "./noise";
import { PlaneWalk, type VirtualPlane } from "./virtual-plane";

/** The bar between its two seats, and how it was set up. */
export interface VirtualBar {
  /** Standard deviation of one sample, mm. */
  readonly noiseMm: number;
  readonly resolutionMm: number;
  /** Seat off the centre of the programmed circle, mm. */
  readonly offMm: readonly [number, number];
  /** Bar longer than it is said to be, mm. */
  readonly longerMm: number;
}

/** What a bar read: it knows nothing of who takes it apart. */
export interface VirtualTrace {
  readonly direction: 1 | -1;
  /** rad. */
  readonly angles: Float64Array;
  /** mm. */
  readonly deviations: Float64Array;
}

export interface VirtualCircleAsked {
  readonly radiusMm: number;
  readonly feedMmMin: number;
  readonly centreMm: readonly [number, number];
  readonly direction: 1 | -1;
  /** Where it begins and how far it goes, rad. */
  readonly fromRad: number;
  readonly spanRad: number;
  readonly samples: number;
  readonly seed: number;
}

/** Lead-in before the first sample, rad: slack is taken up and the servos lag as they will. */
const LEAD_IN = Math.PI / 3;

/**
 * A circle as a bar would read it: the path is walked in time, each axis through its servo and its own chain, the plane
 * bends what comes of it, and the bar reads the distance of its seats.
 * @param plane - the machine
 * @param bar - the bar
 * @param asked - the circle
 * @returns angles as commanded and deviations from the radius, mm
 * @example
 * const axis = { ...defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1), pitchErrorMm: 0 };
 * const none = [0, 0];
 * const stick = [{ mm: 0, tauS: 1 }, { mm: 0, tauS: 1 }];
 * const plane = { axes: [axis, axis], gains: [1000, 1000], scale: none, square: 0, bowMm: none, asideMm: none, stick };
 * const bar = { noiseMm: 0, resolutionMm: 0.0001, offMm: none, longerMm: 0 };
 * const asked = { radiusMm: 100, feedMmMin: 1000, centreMm: [200, 200], direction: 1, fromRad: 0, spanRad: 6.28, samples: 90, seed: 1 };
 * virtualCircle(plane, bar, asked).angles.length // 90
 */
export function virtualCircle(plane: VirtualPlane, bar: VirtualBar, asked: VirtualCircleAsked): VirtualTrace {
  const { radiusMm: radius, centreMm, direction, samples } = asked;
  const stepRad = asked.spanRad / samples;
  const dt = (stepRad * radius) / (asked.feedMmMin / 60);
  const start = asked.fromRad - direction * LEAD_IN;
  const place = (angle: number): readonly [number, number] => [
    centreMm[0] + radius * Math.cos(angle),
    centreMm[1] + radius * Math.sin(angle),
  ];
  const walk = new PlaneWalk(plane, centreMm, place(start));
  const leadIn = Math.ceil(LEAD_IN / stepRad);
  const angles = new Float64Array(samples);
  const deviations = new Float64Array(samples);
  for (let k = -leadIn; k < samples; k += 1) {
    const angle = asked.fromRad + direction * (k + 1) * stepRad;
    const at = walk.step((part) => place(angle - direction * stepRad * (1 - part)), dt, radius);
    if (k < 0) continue;
    angles[k] = angle;
    deviations[k] = barReads(bar, at, { seed: asked.seed, count: k }) - radius;
  }
  return { direction, angles, deviations };
}

/**
 * What a bar says between its seats: its length by what it believes itself to be.
 * @param bar - the bar
 * @param place - seat at the spindle from the centre of the circle, mm
 * @param noise - which number of which sequence
 * @returns mm
 * @example barReads({ noiseMm: 0, resolutionMm: 0.0001, offMm: [0, 0], longerMm: 0 }, [30, 40], { seed: 1, count: 0 }) // 50
 */
export function barReads(
  bar: VirtualBar,
  [dx, dy]: readonly [number, number],
  { seed, count }: { readonly seed: number; readonly count: number },
): number {
  const length = Math.hypot(dx - bar.offMm[0], dy - bar.offMm[1]) + bar.noiseMm * normalNoise(seed, count);
  return Math.round(length / bar.resolutionMm) * bar.resolutionMm - bar.longerMm;
}
