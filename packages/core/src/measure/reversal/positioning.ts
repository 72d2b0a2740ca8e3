import { mean, requireBound, sampleDeviation } from "../../quantity";

/** Deviations at one target position, mm, run by run: approached towards plus and towards minus. */
export interface TargetReadings {
  readonly positionMm: number;
  readonly up: readonly number[];
  readonly down: readonly number[];
}

/** Quantities of one target, ISO 230-2:2014 clause 3. Millimetres. */
export interface TargetEvaluation {
  readonly positionMm: number;
  readonly meanUp: number;
  readonly meanDown: number;
  readonly sUp: number;
  readonly sDown: number;
  /** Reversal value at the target, B_i = x̄↑ − x̄↓; negative where motion is lost. */
  readonly reversal: number;
  readonly repeatabilityUp: number;
  readonly repeatabilityDown: number;
  readonly repeatability: number;
  /** Mean bidirectional positional deviation. */
  readonly mean: number;
}

/** Quantities of the axis, ISO 230-2:2014 clause 3. Millimetres. */
export interface PositioningEvaluation {
  readonly targets: readonly TargetEvaluation[];
  /** B = max |B_i|. */
  readonly reversalValue: number;
  /** B̄ = mean of B_i, signed. */
  readonly meanReversalValue: number;
  /** R↑, R↓ and R. */
  readonly repeatabilityUp: number;
  readonly repeatabilityDown: number;
  readonly repeatability: number;
  /** E↑, E↓ and E: systematic deviation. */
  readonly systematicUp: number;
  readonly systematicDown: number;
  readonly systematic: number;
  /** M: range of the mean bidirectional deviation. */
  readonly meanRange: number;
  /** A↑, A↓ and A: accuracy of positioning. */
  readonly accuracyUp: number;
  readonly accuracyDown: number;
  readonly accuracy: number;
}

/**
 * Quantities of one target (ISO 230-2:2014). Needs two runs each way for s and what follows of it.
 * @param target - deviations in approach from below and from above, mm
 * @returns means, standard deviations, reversal value and repeatability, mm
 * @example evaluateTarget({ positionMm: 100, up: [0.002, 0.004], down: [-0.006, -0.004] }).reversal // 0.008
 */
export function evaluateTarget(target: TargetReadings): TargetEvaluation {
  const meanUp = mean(target.up);
  const meanDown = mean(target.down);
  const sUp = sampleDeviation(target.up);
  const sDown = sampleDeviation(target.down);
  const reversal = meanUp - meanDown;
  return {
    positionMm: target.positionMm,
    meanUp,
    meanDown,
    sUp,
    sDown,
    reversal,
    repeatabilityUp: 4 * sUp,
    repeatabilityDown: 4 * sDown,
    repeatability: Math.max(2 * sUp + 2 * sDown + Math.abs(reversal), 4 * sUp, 4 * sDown),
    mean: (meanUp + meanDown) / 2,
  };
}

/**
 * All quantities of ISO 230-2:2014 for an axis from its targets.
 * @param readings - the targets, mm
 * @returns all quantities, mm
 * @throws BoundError when there is no target
 * @example
 * evaluatePositioning([{ positionMm: 100, up: [0.002, 0.004], down: [-0.006, -0.004] }]).reversalValue // 0.008
 */
export function evaluatePositioning(readings: readonly TargetReadings[]): PositioningEvaluation {
  requireBound({ "number of targets": readings.length }, readings.length > 0, "at least 1");
  const targets: TargetEvaluation[] = [];
  let b = 0;
  let sumB = 0;
  let [rUp, rDown, r] = [0, 0, 0];
  const up = new Extent();
  const down = new Extent();
  const both = new Extent();
  for (const one of readings) {
    const t = evaluateTarget(one);
    targets.push(t);
    b = Math.max(b, Math.abs(t.reversal));
    sumB += t.reversal;
    rUp = Math.max(rUp, t.repeatabilityUp);
    rDown = Math.max(rDown, t.repeatabilityDown);
    r = Math.max(r, t.repeatability);
    up.take(t.meanUp, t.sUp);
    down.take(t.meanDown, t.sDown);
    both.takeMean(t.mean);
  }
  return {
    targets,
    reversalValue: b,
    meanReversalValue: sumB / readings.length,
    repeatabilityUp: rUp,
    repeatabilityDown: rDown,
    repeatability: r,
    systematicUp: up.highMean - up.lowMean,
    systematicDown: down.highMean - down.lowMean,
    systematic: Math.max(up.highMean, down.highMean) - Math.min(up.lowMean, down.lowMean),
    meanRange: both.highMean - both.lowMean,
    accuracyUp: up.high - up.low,
    accuracyDown: down.high - down.low,
    accuracy: Math.max(up.high, down.high) - Math.min(up.low, down.low),
  };
}

/** Highest and lowest mean, and the same with two standard deviations added. */
class Extent {
  lowMean = Infinity;
  highMean = -Infinity;
  low = Infinity;
  high = -Infinity;

  take(centre: number, s: number): void {
    this.takeMean(centre);
    this.low = Math.min(this.low, centre - 2 * s);
    this.high = Math.max(this.high, centre + 2 * s);
  }

  takeMean(centre: number): void {
    this.lowMean = Math.min(this.lowMean, centre);
    this.highMean = Math.max(this.highMean, centre);
  }
}

/**
 * What is missing before the quantities may be called those of the standard: five targets a metre and
 * at least five, five runs each way, and a reference that keeps its zero along the travel
 * (ISO 230-2:2014, 4.3; axes up to 2 m). Empty when nothing is missing.
 * @param readings - the targets, mm
 * @param keepsZero - the indicator keeps its zero over all targets
 * @returns sentences
 * @example missingForStandard([], true).length > 0 // true
 */
export function missingForStandard(readings: readonly TargetReadings[], keepsZero: boolean): readonly string[] {
  const missing: string[] = [];
  const places = readings.map((r) => r.positionMm);
  const spanM = (Math.max(...places) - Math.min(...places)) / 1000;
  const wanted = Math.max(5, Math.ceil(5 * Math.min(spanM, 2)));
  if (readings.length < wanted) missing.push(`${wanted} targets (there are ${readings.length})`);
  const runs = Math.min(...readings.flatMap((r) => [r.up.length, r.down.length]));
  if (runs < 5) missing.push(`five runs each way at every target (the least is ${runs})`);
  if (!keepsZero) {
    missing.push(
      "one reference along the whole travel (the indicator was set to zero anew at each place, so M, E and A would mean nothing)",
    );
  }
  return missing;
}
