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
  /** What trembles as an axis goes: worn balls, a dry nut. */
  readonly shake?: readonly [Shake | null, Shake | null];
}

interface Shake {
  /** Amplitude, mm. */
  readonly mm: number;
  /** Travel for one wave, mm. */
  readonly waveMm: number;
}

interface Stick {
  readonly mm: number;
  readonly tauS: number;
}

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
      readonly shake: Shake | null;
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
    return { at: at + scale * (at - centreMm) + this.shaking(at), going: this.going };
  }

  /** No two balls are alike: each wave has its own height. */
  private shaking(at: number): number {
    const { shake } = this.has;
    if (!shake) return 0;
    const wave = at / shake.waveMm;
    return shake.mm * (1 + 0.3 * normalNoise(7, Math.abs(Math.floor(wave)))) * Math.sin(2 * Math.PI * wave);
  }
}

/** Two axes walked along a path in time, and where the spindle stands of it. */
export class PlaneWalk {
  private readonly axes: readonly [Walked, Walked];
  private at: readonly [number, number];

  /**
   * @param plane - the machine
   * @param centreMm - centre of the circle in machine coordinates, mm
   * @param startMm - where the axes stand first, mm
   */
  constructor(
    private readonly plane: VirtualPlane,
    private readonly centreMm: readonly [number, number],
    startMm: readonly [number, number],
  ) {
    const walked = (i: 0 | 1): Walked =>
      new Walked(
        plane.axes[i],
        {
          gain: plane.gains[i],
          scale: plane.scale[i],
          stick: plane.stick[i],
          shake: plane.shake?.[i] ?? null,
          centreMm: centreMm[i],
        },
        startMm[i],
      );
    this.axes = [walked(0), walked(1)];
    this.at = startMm;
  }

  /**
   * Lets the command go on.
   * @param placeOf - where the command stands, mm, at a part of this step from 0 to 1
   * @param dt - how long the step takes, s
   * @param radiusMm - radius of the circle, mm
   * @returns where the spindle stands, from the centre, mm
   */
  step(placeOf: (part: number) => readonly [number, number], dt: number, radiusMm: number): readonly [number, number] {
    const to = placeOf(1);
    const parts = Math.max(1, Math.ceil(Math.hypot(to[0] - this.at[0], to[1] - this.at[1]) / DRIVEN_MM));
    for (let part = 1; part <= parts; part += 1) {
      const on = placeOf(part / parts);
      this.axes[0].drive(on[0], dt / parts);
      this.axes[1].drive(on[1], dt / parts);
    }
    this.at = to;
    const [x, y] = [this.axes[0].follow(), this.axes[1].follow()];
    return bent(this.plane, radiusMm, {
      x: x.at - this.centreMm[0],
      y: y.at - this.centreMm[1],
      goingX: x.going,
      goingY: y.going,
    });
  }
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
