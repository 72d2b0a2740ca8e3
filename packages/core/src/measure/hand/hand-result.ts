import type { AxisConfig } from "../../machine/axis";
import { travelPerTurnMm } from "../../machine/axis";
import {
  crestAlignment,
  tram,
  type CrestAlignment,
  type CrestReadings,
  type Datum,
  type TramResult,
} from "../../sums/alignment";
import { crestAnswers, USUAL_CREST_STEP_MM } from "./crest-run";
import type { FindingId } from "../findings";
import type { TestId } from "../../diagnosis/tests";
import { homeRepeat, type HomeRepeat } from "../../sums/home";
import { gibSetResult, type GibSetResult } from "./gib-methods";
import { feelResult } from "./feel-results";
import { usualPullN } from "./push-result";
import { isFeelKind, type FeelKind } from "./feel-tests";
import { handTestSteps, CREST_PLANES } from "./hand-plan";
import type { FeelResult, HandTestPlan } from "./hand-types";

export type HandTestResult =
  | { readonly kind: "crest-run"; readonly alignment: CrestAlignment }
  | { readonly kind: "gib-curve"; readonly gib: GibSetResult }
  | { readonly kind: "tram"; readonly tram: TramResult }
  | { readonly kind: "home-repeat"; readonly home: HomeRepeat }
  | { readonly kind: FeelKind; readonly hand: FeelResult };

export interface HandTestOptions {
  readonly datum?: Datum;
  readonly stockMm?: readonly number[];
  /** Pull that is usual on this axis, N. */
  readonly usualN?: number | null;
}

/** Step of an indicator that nobody named, mm (common practice, no source). */
export const USUAL_STEP_MM = 0.01;

/**
 * Readings by plane of a crest run; only places that were read.
 * @param plan - of a crest run
 * @param values - what was read, by step, mm
 * @returns places and readings of each plane, mm
 * @example crestReadings(defaultHandTest(defaultAxis("vertical-centre", "X"), "crest-run"), []).length // 2
 */
export function crestReadings(plan: HandTestPlan, values: readonly (number | null)[]): readonly CrestReadings[] {
  const steps = handTestSteps(plan);
  return CREST_PLANES.map((name) => ({
    name,
    points: steps.flatMap((s) => {
      const y = values[s.index];
      return s.group === name && typeof y === "number" ? [{ x: s.at, y }] : [];
    }),
  }));
}

/** How the screw lies, from the crests that are read so far; null while no plane has enough. */
function crestOf(
  axis: AxisConfig,
  plan: HandTestPlan,
  { values, ...options }: { readonly values: readonly (number | null)[] } & HandTestOptions,
): CrestAlignment | null {
  const planes = crestReadings(plan, values).filter((p) => p.points.length >= 5);
  if (planes.length === 0) return null;
  const over = Math.max(0, axis.screw.freeLengthMm - axis.travelMm) / 2;
  const supports = {
    fixedMm: -over,
    farMm: axis.travelMm + over,
    bracketMm: axis.travelMm / 2,
    leadMm: travelPerTurnMm(axis),
  };
  return crestAlignment(planes, {
    supports,
    datum: options.datum ?? "bracket",
    stockMm: options.stockMm,
    resolutionMm: plan.resolutionMm ?? USUAL_CREST_STEP_MM,
  });
}

/**
 * What the readings of a series say, by step; null while there are too few. Null values are steps not
 * read yet.
 * @param axis - configuration
 * @param plan - the plan
 * @param options - `values`: what was read, by step, null for what was not; datum, shims in stock, usual pull
 * @returns the result of its kind; null while there are too few
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * handTestResult(axis, defaultHandTest(axis, "home-repeat"), { values: [] }) // null
 */
export function handTestResult(
  axis: AxisConfig,
  plan: HandTestPlan,
  { values, ...options }: { readonly values: readonly (number | null)[] } & HandTestOptions,
): HandTestResult | null {
  const steps = handTestSteps(plan);
  const value = (group: string): number | null => {
    const step = steps.find((s) => s.group === group);
    return step ? (values[step.index] ?? null) : null;
  };
  const reads = steps.flatMap((s) => {
    const read = values[s.index];
    return typeof read === "number" ? [{ ...s, value: read }] : [];
  });
  if (isFeelKind(plan.kind)) {
    const hand = feelResult(plan.kind, {
      plan,
      reads,
      pull: {
        usualN: options.usualN ?? null,
        kindN: usualPullN(axis),
      },
    });
    return hand && { kind: plan.kind, hand };
  }
  switch (plan.kind) {
    case "crest-run": {
      const alignment = crestOf(axis, plan, { values, ...options });
      return alignment && { kind: "crest-run", alignment };
    }
    case "gib-curve": {
      const gib = gibSetResult(plan, reads);
      return gib && { kind: "gib-curve", gib };
    }
    case "tram": {
      const [leftMm, rightMm] = [value("left"), value("right")];
      if (leftMm === null || rightMm === null) return null;
      const readings = {
        leftMm,
        rightMm,
        farMm: value("far"),
        nearMm: value("near"),
        spanMm: plan.spanMm,
        depthMm: plan.depthMm || null,
        resolutionMm: plan.resolutionMm ?? USUAL_STEP_MM,
      };
      return { kind: "tram", tram: tram(readings) };
    }
    case "home-repeat": {
      const read = values.filter((v): v is number => typeof v === "number");
      return read.length < 3 ? null : { kind: "home-repeat", home: homeRepeat(read, travelPerTurnMm(axis)) };
    }
  }
}

/**
 * What a series says as the result of a test at Locate; null for what is no test there.
 * @param result - of {@link handTestResult}
 * @returns the test and the findings it answers
 * @example handTestAnswers({ kind: "gib-curve" }) // null
 */
export function handTestAnswers(result: HandTestResult): {
  readonly test: TestId;
  readonly answers: Partial<Record<FindingId, boolean>>;
} | null {
  switch (result.kind) {
    case "crest-run": {
      const { outOfLine, bent } = crestAnswers(result.alignment);
      return {
        test: "crest-run",
        answers: {
          ...(outOfLine === null ? {} : { "crest-slope": outOfLine }),
          ...(bent === null ? {} : { "crest-turn": bent }),
        },
      };
    }
    case "tram":
      // What cannot be told leaves the question open.
      return {
        test: "tram-look",
        answers: result.tram.code === "cannot-tell" ? {} : { "tram-off": result.tram.code === "out" },
      };
    case "home-repeat":
      return {
        test: "home-again",
        answers: { "home-varies": result.home.rangeMm > 0.02, "home-turn": result.home.jumps > 0 },
      };
    case "gib-curve":
      return null;
    default:
      return { test: result.kind, answers: result.hand.answers };
  }
}
