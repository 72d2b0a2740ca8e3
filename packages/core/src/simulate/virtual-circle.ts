import type { CircleDirection, CircleTrace } from "../measure";
import { normalNoise } from "./noise";
import { commandAxis, memberPosition, restingState, type VirtualAxis, type VirtualAxisState } from "./virtual-axis";

/** What a machine makes of two of its axes, beyond what each does by itself. */
export interface VirtualPlane {
  readonly axes: readonly [VirtualAxis, VirtualAxis];
  /** Velocity gain of each servo, 1/s. */
  readonly gains: readonly [number, number];
  /** Scale error of each axis, mm for a mm. */
  readonly scale: readonly [number, number];
  /** How far the second axis leans towards the first, rad. */
  readonly square: number;
  /** How far each axis bows sideways at the ends of the circle, mm, a parabola from its middle. */
  readonly bowMm: readonly [number, number];
  /** How far each axis’ member goes aside with the direction it is moved in, mm between the two. */
  readonly asideMm: readonly [number, number];
  /** How far each servo is caught by friction when its axis turns round, mm, and how fast it catches up, s. */
  readonly stick: readonly [Stick, Stick];
}

interface Stick {
  readonly mm: number;
  readonly tauS: number;
}

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

export interface VirtualCircleAsked {
  readonly radiusMm: number;
  readonly feedMmMin: number;
  readonly centreMm: readonly [number, number];
  readonly direction: CircleDirection;
  /** Where it begins and how far it goes, rad. */
  readonly fromRad: number;
  readonly spanRad: number;
  readonly samples: number;
  readonly seed: number;
}

/** Lead-in before the first sample, rad: slack is taken up and the servos lag as they will. */
const LEAD_IN = Math.PI / 3;

/** Path between two looks at the servos, mm: an axis turns round within a hundredth of a millimetre of it. */
const DRIVEN_MM = 0.01;

/** One axis as the path is walked: its servo, what it is caught by, and what hangs on it. */
class Walked {
  private state: VirtualAxisState;
  private servo: number;
  private commanded: number;
  /** Where the motor is held since its axis turned round; null while it runs. */
  private held: number | null = null;
  private caught = 0;
  private going = 0;

  constructor(
    private readonly axis: VirtualAxis,
    private readonly has: {
      readonly gain: number;
      readonly scale: number;
      readonly stick: Stick;
      readonly centreMm: number;
    },
    startMm: number,
  ) {
    this.servo = startMm;
    this.commanded = startMm;
    this.state = restingState(axis, startMm);
  }

  /** Its motor after a step of `dt`. */
  drive(commandMm: number, dt: number): void {
    const { gain, stick } = this.has;
    // A position loop runs after its command as far as its speed over its gain; exact while the command goes evenly.
    const before = this.servo;
    const behind = (commandMm - this.commanded) / (gain * dt);
    this.servo = commandMm - behind + (before - this.commanded + behind) * Math.exp(-gain * dt);
    this.commanded = commandMm;
    const moved = Math.sign(this.servo - before);
    if (moved !== 0 && this.going !== 0 && moved !== this.going) {
      this.held = before;
      // How far it came is remembered by what hangs on it.
      this.state = commandAxis(this.axis, this.state, before);
    }
    if (moved !== 0) this.going = moved;
    this.caught *= Math.exp(-dt / stick.tauS);
    // Friction holds the motor till the loop pulls hard enough; then it catches up.
    if (this.held === null) return;
    this.caught = this.held - this.servo;
    if (Math.abs(this.caught) >= stick.mm) this.held = null;
  }

  /** Place of its member, mm, and which way its motor is going. */
  follow(): { readonly at: number; readonly going: number } {
    const { scale, centreMm } = this.has;
    this.state = commandAxis(this.axis, this.state, this.servo + this.caught);
    const at = memberPosition(this.axis, this.state);
    return { at: at + scale * (at - centreMm), going: this.going };
  }
}

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
export function virtualCircle(plane: VirtualPlane, bar: VirtualBar, asked: VirtualCircleAsked): CircleTrace {
  const { radiusMm: radius, centreMm, direction, samples } = asked;
  const feed = asked.feedMmMin / 60;
  const stepRad = asked.spanRad / samples;
  const dt = (stepRad * radius) / feed;
  const start = asked.fromRad - direction * LEAD_IN;
  const place = (angle: number): readonly [number, number] => [
    centreMm[0] + radius * Math.cos(angle),
    centreMm[1] + radius * Math.sin(angle),
  ];
  const at = place(start);
  const axes = plane.axes.map((axis, i) => {
    const has = { gain: plane.gains[i], scale: plane.scale[i], stick: plane.stick[i], centreMm: centreMm[i] };
    return new Walked(axis, has, at[i]);
  });
  const leadIn = Math.ceil(LEAD_IN / stepRad);
  const parts = Math.ceil((stepRad * radius) / DRIVEN_MM);
  const angles = new Float64Array(samples);
  const deviations = new Float64Array(samples);
  for (let k = -leadIn; k < samples; k += 1) {
    const angle = asked.fromRad + direction * (k + 1) * stepRad;
    for (let part = 1; part <= parts; part += 1) {
      const on = place(angle - direction * stepRad * (1 - part / parts));
      axes.forEach((axis, i) => axis.drive(on[i], dt / parts));
    }
    const [x, y] = axes.map((axis) => axis.follow());
    if (k < 0) continue;
    angles[k] = angle;
    const [dx, dy] = bent(plane, radius, {
      x: x.at - centreMm[0],
      y: y.at - centreMm[1],
      goingX: x.going,
      goingY: y.going,
    });
    const length = Math.hypot(dx - bar.offMm[0], dy - bar.offMm[1]) + bar.noiseMm * normalNoise(asked.seed, k);
    const read = Math.round(length / bar.resolutionMm) * bar.resolutionMm;
    deviations[k] = read - radius - bar.longerMm;
  }
  return { direction, angles, deviations };
}

/** Where the spindle stands in a square plane, from the places of two axes that are neither straight nor square. */
function bent(
  { square, bowMm, asideMm }: VirtualPlane,
  radius: number,
  {
    x,
    y,
    goingX,
    goingY,
  }: { readonly x: number; readonly y: number; readonly goingX: number; readonly goingY: number },
): readonly [number, number] {
  const besideY = bowMm[0] * (x / radius) ** 2 + (asideMm[0] / 2) * goingX;
  const besideX = bowMm[1] * (y / radius) ** 2 + (asideMm[1] / 2) * goingY;
  return [x + Math.sin(square) * y + besideX, y * Math.cos(square) + besideY];
}
