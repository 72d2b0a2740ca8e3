import type { FindingId } from "../findings";

/** Measurements that are a row of readings rather than approaches from two sides. */
export const HAND_TEST_KINDS = [
  "crest-run",
  "gib-curve",
  "tram",
  "home-repeat",
  "rock",
  "hand-push",
  "wheel-turn",
  "motor-alone",
  "finger-feel",
  "coast",
] as const;
export type HandTestKind = (typeof HAND_TEST_KINDS)[number];

/**
 * Ways of setting a gib: the friction curve, with rock read beside it or not; rock alone; lost motion
 * while tightening; tighten until it seizes and back off until the whole travel is free.
 */
export const GIB_MODES = ["friction-rock", "friction", "rock", "lost-motion", "seize"] as const;
export type GibMode = (typeof GIB_MODES)[number];

export interface HandTestPlan {
  readonly kind: HandTestKind;
  /**
   * Crest run, rock, push: places along the travel, mm. Gib: turns of the adjuster. Motor alone: % of
   * the speed of rapid. Finger feel: degrees. Else not used.
   */
  readonly places: readonly number[];
  /** Homings, wheels, or flicks each way; else 1. */
  readonly repeats: number;
  /** Tram: distance between the points, mm; depth 0 for a two-point check. */
  readonly spanMm: number;
  readonly depthMm: number;
  /** Gib curve: the drive’s load, or the pull on a scale. */
  readonly friction: "load" | "pull";
  /** Step of the indicator, mm; absent where nobody named one. */
  readonly resolutionMm?: number;
  /** Gib: which method; friction alone where it is not said. */
  readonly gib?: GibMode;
}

export interface HandTestStep {
  readonly index: number;
  /** What the reading belongs to: a plane, a point, a homing. */
  readonly group: string;
  /** Place, mm, or turns; the number of the homing. */
  readonly at: number;
}

/** What a test by hand found; findings that it leaves open are not in it. */
export interface FeelResult {
  readonly answers: Partial<Record<FindingId, boolean>>;
  /** The first sentence is the verdict; lengths and forces follow as figures. */
  readonly headline: string;
  readonly figures: readonly FeelFigure[];
  /** What spoils or limits it. */
  readonly remarks: readonly string[];
}

export interface FeelFigure {
  readonly name: string;
  /** Where it was read, mm. */
  readonly atMm?: number;
  readonly quantity: "deviation" | "force";
  readonly value: number;
  /** Expanded uncertainty, k about 2; null where it cannot be told. */
  readonly expanded: number | null;
}

export type FeelRead = HandTestStep & { readonly value: number };

/** What a pull by hand is held against. */
export interface PullScale {
  /** Pull that is usual on this axis, N; null where nobody noted it. */
  readonly usualN: number | null;
  /** Pull that is usual for such a member on such a way, N. */
  readonly kindN: readonly [number, number];
}
