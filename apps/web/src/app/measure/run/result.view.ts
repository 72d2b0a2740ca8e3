import {
  chainOf,
  deviationUnit,
  evaluateRun,
  formatDeviation,
  formatLimit,
  formatPosition,
  fromMm,
  lossState,
  sampleDeviation,
  mean,
  UNIT_WORD,
  verdictOn,
  type AxisConfig,
  type AxisState,
  type LossResult,
  type UnitSystem,
  type Verdict,
} from "@iron/core";
import { indicatorSetup, type Run } from "@iron/contract";

export interface Line {
  readonly name: string;
  readonly symbol: string;
  readonly value: string;
}

export interface ResultView {
  readonly result: LossResult;
  readonly verdict: Verdict;
  readonly state: AxisState;
  readonly headline: string;
  readonly unit: string;
  readonly plusMinus: string;
  readonly rounding: string;
  readonly ownErrors: string;
  readonly iso: readonly Line[];
  readonly missing: readonly string[];
  readonly outliers: readonly string[];
  readonly places: readonly {
    readonly place: string;
    readonly lost: string;
    readonly expanded: string;
    readonly runs: number;
    readonly state: AxisState;
  }[];
}

/** What is known of the indicator’s own errors, for the words under the figures. */
function ownErrorText(run: Run, system: UnitSystem): string {
  const { hysteresisMm, calibrationMm } = indicatorSetup(run.setup);
  const own = [
    hysteresisMm ? `hysteresis ${formatDeviation(hysteresisMm, { system })}` : "",
    calibrationMm ? `error of the indicator ${formatDeviation(calibrationMm, { system })}` : "",
  ].filter(Boolean);
  return own.length ? own.join(", ") : "the indicator’s own errors are not noted and not in it";
}

export function resultOfRun(run: Pick<Run, "plan" | "setup" | "readings">): LossResult | null {
  return evaluateRun(run.plan, run.readings, indicatorSetup(run.setup));
}

/** What the readings of a run say, in the user’s units; null while there is no result. */
export function resultView(run: Run, config: AxisConfig, system: UnitSystem): ResultView | null {
  const result = resultOfRun(run);
  if (!result) return null;
  const memberName =
    chainOf(config)
      .find((l) => l.id === "member")
      ?.name.toLowerCase() ?? "member";
  const verdict = verdictOn(result, {
    kind: run.plan.kind,
    memberName,
    letter: config.letter,
    limits: config.limits,
    feedback: config.feedback,
    system,
    resolutionMm: run.setup.indicator.resolutionMm,
    enteredMm: config.enteredMm,
  });
  const U = result.uncertainty.expanded;
  const small = (mm: number, signed = false): string =>
    formatDeviation(mm, { system, expandedMm: U, signed, bare: true });
  const [low, high] = result.roundingBoundsMm;
  return {
    result,
    verdict,
    state: verdict.state,
    headline: small(result.reversalValueMm),
    unit: UNIT_WORD[deviationUnit(system)],
    plusMinus: `± ${small(U)}`,
    rounding: `From rounding alone it could be anything from ${small(low)} to ${formatDeviation(high, { system, expandedMm: U })}.`,
    ownErrors: ownErrorText(run, system),
    iso: result.iso ? isoLines(result.iso, system) : [],
    missing: result.missingForStandard,
    outliers: result.outliers.map(
      (o) =>
        `${formatDeviation(o.deviationMm, { system, signed: true })} at ${formatPosition(o.positionMm, { system })} stands out (${o.test}). It is still counted: set it aside only if you know why.`,
    ),
    places: result.places.map((p) => ({
      place: formatPosition(p.positionMm, { system, bare: true }),
      lost: small(p.reversalValueMm),
      expanded: small(p.uncertainty.expanded),
      runs: p.runs,
      state: lossState({ reversalValueMm: p.reversalValueMm, expandedMm: p.uncertainty.expanded }, config.limits),
    })),
  };
}

function isoLines(iso: NonNullable<LossResult["iso"]>, system: UnitSystem): Line[] {
  const line = (name: string, symbol: string, mm: number): Line => ({
    name,
    symbol,
    value: formatDeviation(mm, { system }),
  });
  return [
    line("Reversal value", "B", iso.reversalValue),
    line("Mean reversal value", "B̄", iso.meanReversalValue),
    line("Repeatability towards plus", "R↑", iso.repeatabilityUp),
    line("Repeatability towards minus", "R↓", iso.repeatabilityDown),
    line("Repeatability both ways", "R", iso.repeatability),
    line("Systematic deviation towards plus", "E↑", iso.systematicUp),
    line("Systematic deviation towards minus", "E↓", iso.systematicDown),
    line("Systematic deviation both ways", "E", iso.systematic),
    line("Range of the mean deviation", "M", iso.meanRange),
    line("Accuracy towards plus", "A↑", iso.accuracyUp),
    line("Accuracy towards minus", "A↓", iso.accuracyDown),
    line("Accuracy both ways", "A", iso.accuracy),
  ];
}

/** A point with its ± two standard deviations, for a chart. */
export interface Point {
  readonly x: number;
  readonly y: number;
  readonly yMin: number;
  readonly yMax: number;
}

export interface ProfileSeries {
  readonly up: readonly Point[];
  readonly down: readonly Point[];
  readonly limit: readonly { readonly x: number; readonly y: number }[];
  /** What stands on the limit’s line. */
  readonly limitName: string;
  readonly xLabel: string;
  readonly yLabel: string;
  readonly oneXEach: "place" | "run";
}

/** The profile over the travel, or run by run at a single place, in the user’s units. */
export function profileSeries(result: LossResult, config: AxisConfig, system: UnitSystem): ProfileSeries {
  const unit = deviationUnit(system);
  const small = (mm: number): number => fromMm(mm, unit);
  const large = (mm: number): number => fromMm(mm, system === "metric" ? "mm" : "in");
  const point = (x: number, values: readonly number[]): Point => {
    const y = mean(values);
    const s = sampleDeviation(values) || 0;
    return { x, y: small(y), yMin: small(y - 2 * s), yMax: small(y + 2 * s) };
  };
  const yLabel = `deviation, ${UNIT_WORD[unit]}`;
  const limitFor = (x: number, upMean: number) => ({
    x,
    y: small(upMean + config.limits.repairMm),
  });
  const limitName = `limit ${formatLimit(config.limits.repairMm, system)}`;
  const { places } = result;
  if (places.length === 1) {
    const { up, down } = places[0];
    const single = (v: number, i: number): Point => ({
      x: i + 1,
      y: small(v),
      yMin: small(v),
      yMax: small(v),
    });
    const base = up.length ? mean(up) : 0;
    const last = Math.max(up.length, down.length, 2);
    return {
      up: up.map(single),
      down: down.map(single),
      limit: [limitFor(0.5, base), limitFor(last + 0.5, base)],
      limitName,
      xLabel: "run",
      yLabel,
      oneXEach: "run",
    };
  }
  return {
    up: places.map((p) => point(large(p.positionMm), p.up)),
    down: places.map((p) => point(large(p.positionMm), p.down)),
    limit: places.map((p) => limitFor(large(p.positionMm), mean(p.up))),
    limitName,
    xLabel: `${config.letter}, ${system === "metric" ? "mm" : "in"}`,
    yLabel,
    oneXEach: "place",
  };
}
