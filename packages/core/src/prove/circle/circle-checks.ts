import { CircleModel, type TurnShape } from "./circle-model";
import { solveFor, thinned, tryShape, untold } from "./circle-solve";
import type { CircleSetup, CircleTrace } from "./circle-trace";

/** What the readings themselves say against how they were said to be taken. */
export type CircleDoubt =
  /** The axes turn round so far from where the readings say, degrees: the start is another. */
  | { readonly code: "other-start"; readonly deg: number }
  /** One of the two seems to have gone round the other way. */
  | { readonly code: "other-direction"; readonly trace: number };

const BEGIN: TurnShape = { lossMm: [0, 0], spikeMm: [0, 0], decayMm: [2, 2], lagMm: 0 };
/** A circle told otherwise must fit so much better, of the sum of squares. */
const BETTER = 0.6;
/** Readings that are asked: where the axes turn round is seen by few. */
const FEW = 800;
const STEP_DEG = 3;
const MOST_DEG = 45;

const rotated = (trace: CircleTrace, deg: number): CircleTrace => ({
  ...trace,
  angles: trace.angles.map((a) => a + (deg * Math.PI) / 180),
});

/** The same pass, had it gone round the other way from the same place. */
function turnedOver(trace: CircleTrace): CircleTrace {
  const ends = trace.angles[0] + trace.angles[trace.angles.length - 1];
  return { ...trace, direction: trace.direction === 1 ? -1 : 1, angles: trace.angles.map((a) => ends - a) };
}

function squaresOf(traces: readonly CircleTrace[], setup: CircleSetup): number {
  const without = untold(traces);
  try {
    const { shape } = tryShape(traces, setup, { from: BEGIN, without, passes: 2 });
    return solveFor(traces, new CircleModel(setup, shape, without)).squares;
  } catch {
    // Readings that tell nothing apart raise no doubt of their own.
    return Infinity;
  }
}

/**
 * Asks the readings where the axes turn round, and whether both ways fit each other: a start or a direction that was noted
 * wrongly shows there. It is asked, not put right: both may be so for another reason.
 * @param traces - one or both ways
 * @param setup - what was commanded
 * @returns doubts; none where the readings fit, or are too even to tell
 * @example checkCircle([], { radiusMm: 100, feedMmMin: 1000, centreMm: [0, 0], axes: [{ letter: "X", perTurnMm: null }, { letter: "Y", perTurnMm: null }] }).length // 0
 */
export function checkCircle(traces: readonly CircleTrace[], setup: CircleSetup): readonly CircleDoubt[] {
  if (traces.length === 0) return [];
  const few = thinned(traces, FEW);
  const asTold = squaresOf(few, setup);
  if (!Number.isFinite(asTold)) return [];
  if (few.length === 2) {
    const over = few.map((_, k) =>
      squaresOf(
        few.map((t, i) => (i === k ? turnedOver(t) : t)),
        setup,
      ),
    );
    const least = Math.min(...over);
    if (least < BETTER * asTold) return [{ code: "other-direction", trace: over.indexOf(least) }];
  }
  let best = { deg: 0, squares: asTold };
  for (let deg = -MOST_DEG; deg <= MOST_DEG; deg += STEP_DEG) {
    const squares = squaresOf(
      few.map((t) => rotated(t, deg)),
      setup,
    );
    if (squares < best.squares) best = { deg, squares };
  }
  return best.deg !== 0 && best.squares < BETTER * asTold ? [{ code: "other-start", deg: best.deg }] : [];
}
