import type { CircleSetup, CircleTrace } from "./circle-trace";

/** What the linear model of a circle is made of. Those of one axis end in its place in the plane. */
export const CIRCLE_PARTS = [
  "radius",
  "centre-1",
  "centre-2",
  "mismatch",
  "square",
  "servo",
  "lost-1",
  "lost-slope-1",
  "spike-1",
  "ripple-sin-1",
  "ripple-cos-1",
  "bow-1",
  "across-1",
  "lost-2",
  "lost-slope-2",
  "spike-2",
  "ripple-sin-2",
  "ripple-cos-2",
  "bow-2",
  "across-2",
] as const;
export type CirclePart = (typeof CIRCLE_PARTS)[number];

/** Lengths of decay after which nothing is left of a spike. */
const GONE = 40;

/** Parts of an axis stand together, in this order, from here on. */
const OWN = [6, 13] as const;
const [LOST, SLOPE, SPIKE, RIPPLE_SIN, RIPPLE_COS, BOW, ACROSS] = [0, 1, 2, 3, 4, 5, 6];

/** How large the loss and the spike of each axis are, mm, as far as is known: they shape how it turns round. */
export interface TurnShape {
  readonly lossMm: readonly [number, number];
  readonly spikeMm: readonly [number, number];
  /** Length along the path in which the spike of each axis falls to 1/e, mm. */
  readonly decayMm: readonly [number, number];
  /** Path by which the servos run after the command, mm: their speed over their gain. */
  readonly lagMm: number;
}

/** What is known of how the axes turn round before anything is fitted. */
export const NO_SHAPE: Pick<TurnShape, "lossMm" | "spikeMm"> = { lossMm: [0, 0], spikeMm: [0, 0] };

/** How the parts show on the radius, one reading after the other. */
export class CircleModel {
  /** Those that can be told of these traces. */
  readonly parts: readonly CirclePart[];
  private readonly slots: Int32Array;
  private readonly all = new Float64Array(CIRCLE_PARTS.length);
  private readonly feed: number;

  /**
   * @param setup - what was commanded
   * @param shape - how the axes turn round
   * @param missing - parts that these traces cannot tell
   */
  constructor(
    private readonly setup: CircleSetup,
    private readonly shape: TurnShape,
    readonly missing: readonly CirclePart[] = [],
  ) {
    const known = (part: CirclePart): boolean =>
      !missing.includes(part) && !(part.startsWith("ripple") && setup.axes[Number(part.at(-1)) - 1].perTurnMm === null);
    this.parts = CIRCLE_PARTS.filter(known);
    this.slots = Int32Array.from(this.parts, (p) => CIRCLE_PARTS.indexOf(p));
    this.feed = setup.feedMmMin / 60;
  }

  /**
   * Radial deviation for one unit of each part.
   * @param row - filled, in the order of the parts
   * @param angle - rad
   * @param direction - which way round
   */
  fill(row: Float64Array, angle: number, direction: 1 | -1): void {
    const { all, slots, setup } = this;
    const radius = setup.radiusMm;
    // Servos run after the command: the spindle stands, and an axis turns round, so much later than it is told to.
    const late = angle - (direction * this.shape.lagMm) / radius;
    const [c, s] = [Math.cos(late), Math.sin(late)];
    all[0] = 1;
    all[1] = c;
    all[2] = s;
    all[3] = radius * (c * c - 0.5);
    all[4] = radius * c * s;
    // A lag of v/K along each axis: what one loses the other does not.
    all[5] = direction * this.feed * c * s;
    // The first axis goes down while the angle grows from 0, the second up.
    this.axis(0, { own: c, other: s, going: -direction * s > 0 ? 1 : -1 });
    this.axis(1, { own: s, other: c, going: direction * c > 0 ? 1 : -1 });
    for (let k = 0; k < slots.length; k += 1) row[k] = all[slots[k]];
  }

  private axis(
    i: 0 | 1,
    { own, other, going }: { readonly own: number; readonly other: number; readonly going: number },
  ): void {
    const { all, setup, shape } = this;
    const radius = setup.radiusMm;
    const base = OWN[i];
    const size = Math.abs(own);
    // Going inwards it has turned round: how far it should have come back since.
    const inwards = going * own < 0;
    const back = inwards ? radius * (1 - size) : 0;
    const lost = shape.lossMm[i];
    const step = inwards ? (back < lost ? back / lost : 1) - 0.5 : -0.5;
    all[base + LOST] = step * size;
    all[base + SLOPE] = step * size * own;
    all[base + SPIKE] = inwards ? this.spike(i, back) * size : 0;
    const per = setup.axes[i].perTurnMm;
    const turn = per === null ? 0 : (2 * Math.PI * (setup.centreMm[i] + radius * own)) / per;
    all[base + RIPPLE_SIN] = own * Math.sin(turn);
    all[base + RIPPLE_COS] = own * Math.cos(turn);
    all[base + BOW] = other * own * own;
    all[base + ACROSS] = 0.5 * going * other;
  }

  /**
   * Of one unit, where an axis should have come back so far, mm. Friction holds the motor till the loop pulls hard enough;
   * it catches up while the slack is taken up, and what is left of it then shows.
   */
  private spike(i: 0 | 1, back: number): number {
    const { lossMm, spikeMm, decayMm } = this.shape;
    const [lost, held, decay] = [lossMm[i], spikeMm[i], decayMm[i]];
    if (back <= lost) return 0;
    const gone = back <= held ? 0 : (this.path(back) - this.path(held)) / decay;
    // What is hardly a number any more is slow to reckon with.
    if (gone > GONE) return 0;
    const left = Math.exp(-gone);
    return held > 0 ? Math.min(left, (back - lost) / held) : left;
  }

  /** Path since an axis turned round, when it has come back so far, mm. */
  private path(back: number): number {
    const radius = this.setup.radiusMm;
    return radius * Math.acos(Math.max(-1, 1 - back / radius));
  }
}

/** Readings of all traces. */
export const readingsOf = (traces: readonly CircleTrace[]): number => traces.reduce((n, t) => n + t.angles.length, 0);
