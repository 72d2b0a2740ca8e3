import { checkCircle, type CircleDoubt } from "./circle-checks";
import { circleFindings, type CircleFinding } from "./circle-findings";
import { fitCircle, type FittedPart } from "./circle-fit";
import type { TurnShape } from "./circle-model";
import { circleQuantities, type CircleQuantities } from "./circle-quantities";
import type { CircleSetup, CircleTrace } from "./circle-trace";
import { trembleOf, type Tremble } from "./circle-tremble";

/** What one plane says, as it is kept: numbers only. */
export interface CircleAnalysis {
  readonly quantities: CircleQuantities;
  /** U of the standard’s quantities, mm: the bar’s, and what single samples tremble by. */
  readonly quantitiesU: number;
  readonly findings: readonly CircleFinding[];
  readonly parts: readonly FittedPart[];
  readonly shape: TurnShape;
  readonly tremble: Tremble;
  readonly restRms: number;
  readonly doubts: readonly CircleDoubt[];
}

export interface CircleKnown {
  /** The length of the bar is known at the temperature it had. */
  readonly calibrated: boolean;
  /** Expanded uncertainty of a difference that the bar reads, mm. */
  readonly barU: number;
  /** Told how much of the work is done, from 0 to 1. */
  readonly told?: (share: number) => void;
}

/**
 * Everything that is worked out of one plane.
 * @param traces - one or both ways round
 * @param setup - what was commanded
 * @param known - what is known of the bar
 * @returns quantities, findings, tremble and doubts
 * @throws BoundError where the readings do not tell the parts apart
 * @example
 * const angles = Float64Array.from({ length: 720 }, (_, i) => (i * Math.PI) / 360);
 * const leaning = { angles, deviations: angles.map((a) => 0.003 * Math.sin(2 * a)) };
 * const setup = { radiusMm: 100, feedMmMin: 1000, centreMm: [0, 0], axes: [{ letter: "X", perTurnMm: null }, { letter: "Y", perTurnMm: null }] };
 * analyseCircle([{ direction: 1, ...leaning }, { direction: -1, ...leaning }], setup, { calibrated: false, barU: 0.0005 }).quantities.gBoth // 0.006
 */
export function analyseCircle(
  traces: readonly CircleTrace[],
  setup: CircleSetup,
  { calibrated, barU, told = () => undefined }: CircleKnown,
): CircleAnalysis {
  const fit = fitCircle(traces, setup);
  told(FITTED);
  // The highest and the lowest sample each stand out by what the rest trembles by.
  const quantitiesU = Math.hypot(barU, fit.restRms);
  const known = (found: CircleFinding): CircleFinding => {
    const u = Math.hypot(found.u, ofBar(found, barU, setup));
    // As it will be read: this circle, the next one, and how well that is known which is taken out.
    const part = found.value === 0 ? 0 : (found.onCircleMm * u) / Math.abs(found.value);
    return { ...found, u, without: { ...found.without, uMm: Math.hypot(quantitiesU, quantitiesU, part) } };
  };
  const quantities = circleQuantities(traces, { calibrated });
  const findings = circleFindings(fit, setup).map(known);
  told(FOUND);
  const tremble = trembleOf(traces, fit.rest, setup);
  told(TREMBLED);
  const doubts = checkCircle(traces, setup);
  const { parts, shape, restRms } = fit;
  told(1);
  return { quantities, quantitiesU, findings, parts, shape, tremble, restRms, doubts };
}

/** What an error of the bar may make of a part: most of one that is read all round the circle, less of a turn. */
function ofBar({ kind }: CircleFinding, barU: number, { radiusMm, feedMmMin }: CircleSetup): number {
  if (kind === "mismatch" || kind === "square") return barU / radiusMm;
  if (kind === "bow") return barU;
  // A short difference is read better than one from side to side.
  const near = barU * OF_NEAR;
  return kind === "servo" ? near / (feedMmMin / 60) : near;
}

/** How far the work is after each part of it, on a usual circle (ours). */
const FITTED = 0.4;
const FOUND = 0.55;
const TREMBLED = 0.7;

/** Part of the bar’s U that a difference within a moment has (ours). */
const OF_NEAR = 1 / 3;
