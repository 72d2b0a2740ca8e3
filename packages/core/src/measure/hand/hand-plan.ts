import { isGravityAxis, travelPerTurnMm, type AxisConfig } from "../../machine/axis";
import { GIB_MODE_TEXT, gibNeedless, gibSteps, SEIZE_GRADES } from "./gib-methods";
import {
  checkFeel,
  FEEL_KINDS,
  FEEL_TESTS,
  feelInstruction,
  feelRefusal,
  feelSetup,
  feelText,
  isFeelKind,
  type FeelKind,
} from "./feel-tests";
import type { HandTestKind, HandTestPlan, HandTestStep } from "./hand-types";
import {
  BoundError,
  formatPosition,
  formatQuantity,
  requireBound,
  type QuantityKind,
  type UnitSystem,
} from "../../quantity";

export const CREST_PLANES = ["0°", "90°"] as const;
const TRAM_POINTS = ["left", "right", "far", "near"] as const;

type SettingKind = Exclude<HandTestKind, FeelKind>;
interface HandTestText {
  readonly name: string;
  readonly minutes: number;
  readonly tells: string;
}

/** Measurements that station Set offers; tests by hand begin at Locate. */
export const SETTING_KINDS: readonly SettingKind[] = ["crest-run", "gib-curve", "tram", "home-repeat"];

const SETTING_TEXT: Record<SettingKind, HandTestText> = {
  "crest-run": {
    name: "Screw crest run",
    minutes: 30,
    tells: "How the screw lies against the ways, in two planes, and how straight it is.",
  },
  "gib-curve": {
    name: "Gib setting",
    minutes: 30,
    tells: "Where rock is gone and where friction begins to climb as the gib is turned in.",
  },
  tram: { name: "Tram", minutes: 20, tells: "How square the head stands to the table." },
  "home-repeat": { name: "Home test", minutes: 10, tells: "How well home repeats, and whether it jumps a turn." },
};

export const HAND_TEST_TEXT: Readonly<Record<HandTestKind, HandTestText>> = {
  ...SETTING_TEXT,
  ...(Object.fromEntries(FEEL_KINDS.map((kind) => [kind, feelText(kind)])) as Record<FeelKind, HandTestText>),
};

/**
 * A usual plan for an axis, to be changed.
 * @param axis - configuration
 * @param kind - of the series
 * @returns the plan
 * @example defaultHandTest(defaultAxis("vertical-centre", "X"), "home-repeat").kind // "home-repeat"
 */
export function defaultHandTest(axis: AxisConfig, kind: HandTestKind): HandTestPlan {
  // Spans are those that were swept: nobody can guess them.
  const usual = { kind, spanMm: 0, depthMm: 0, friction: "load" as const };
  if (isFeelKind(kind)) {
    const { places, repeats } = FEEL_TESTS[kind];
    return { ...usual, places: places(axis), repeats };
  }
  const places =
    kind === "crest-run"
      ? crestPlaces(axis)
      : kind === "gib-curve"
        ? Array.from({ length: 13 }, (_, i) => i * 0.25)
        : [];
  return {
    ...usual,
    places,
    repeats: kind === "home-repeat" ? 7 : 1,
    ...(kind === "gib-curve" ? { gib: "friction-rock" as const } : {}),
  };
}

/** Nine places, not whole leads apart, so that a swing once per turn shows. */
function crestPlaces(axis: AxisConfig): number[] {
  const lead = travelPerTurnMm(axis);
  const pitch = (axis.travelMm * 0.9) / 8;
  return Array.from({ length: 9 }, (_, i) => {
    const even = axis.travelMm * 0.05 + i * pitch;
    const phase = ((i * 2) % 5) / 5;
    const on = Math.floor(even / lead) * lead + phase * lead;
    const at = Math.min(axis.travelMm * 0.98, Math.max(axis.travelMm * 0.02, on));
    return Math.round(at * 10) / 10;
  });
}

/**
 * Is the series possible on this axis? Words when it is not.
 * @param axis - configuration
 * @param kind - of the series
 * @returns why not; empty where it is possible
 * @example handTestRefusal(defaultAxis("vertical-centre", "X"), "home-repeat") // ""
 */
export function handTestRefusal(axis: AxisConfig, kind: HandTestKind): string {
  if (isFeelKind(kind)) return feelRefusal(axis, kind);
  if (kind === "crest-run" && (axis.transmission === "rack" || axis.transmission === "rotating-nut"))
    return "There is no turning screw on this axis.";
  if (kind === "gib-curve" && axis.guideway !== "box" && axis.guideway !== "dovetail")
    return "This guideway has no gib.";
  if (kind === "tram" && axis.member !== "head" && axis.member !== "quill" && axis.member !== "ram")
    return "No spindle head moves on this axis.";
  return "";
}

/**
 * Checks a plan; errors name value and bound.
 * @param plan - the plan
 * @param axis - configuration
 * @throws BoundError
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * checkHandTest(defaultHandTest(axis, "home-repeat"), axis) // undefined
 */
export function checkHandTest(plan: HandTestPlan, axis: AxisConfig): void {
  const { kind, places, repeats, spanMm, depthMm } = plan;
  if (isFeelKind(kind)) {
    checkFeel(plan, axis);
    return;
  }
  if (kind === "crest-run" || kind === "gib-curve") {
    requireBound({ "number of places": places.length }, places.length >= 5 && places.length <= 200, "from 5 to 200");
    let before = -Infinity;
    for (const place of places) {
      const most = kind === "crest-run" ? axis.travelMm : 20;
      const unit = kind === "crest-run" ? "mm" : "turns";
      requireBound(
        { [kind === "crest-run" ? "place" : "turns"]: place },
        place >= 0 && place <= most,
        `from 0 to ${most} ${unit}`,
      );
      if (place <= before) throw new BoundError("place", place, "in ascending order, each once");
      before = place;
    }
  }
  if (kind === "home-repeat")
    requireBound(
      { homings: repeats },
      Number.isInteger(repeats) && repeats >= 3 && repeats <= 50,
      "a whole number from 3 to 50",
    );
  if (plan.resolutionMm !== undefined)
    requireBound(
      { "step of the indicator": plan.resolutionMm },
      plan.resolutionMm > 0 && plan.resolutionMm <= 1,
      "above 0 and up to 1 mm",
    );
  if (kind === "tram") {
    requireBound({ span: spanMm }, spanMm >= 20 && spanMm <= 3000, "from 20 to 3000 mm");
    requireBound(
      { depth: depthMm },
      depthMm === 0 || (depthMm >= 20 && depthMm <= 3000),
      "0 for two points, or from 20 to 3000 mm",
    );
  }
}

/**
 * The readings of a plan, in the order they are taken.
 * @param plan - the plan
 * @returns the steps
 * @example handTestSteps(defaultHandTest(defaultAxis("vertical-centre", "X"), "home-repeat")).length // 7
 */
export function handTestSteps(plan: HandTestPlan): readonly HandTestStep[] {
  const rows: { group: string; at: number }[] = [];
  if (isFeelKind(plan.kind)) rows.push(...FEEL_TESTS[plan.kind].steps(plan));
  if (plan.kind === "crest-run")
    for (const group of CREST_PLANES) for (const at of plan.places) rows.push({ group, at });
  if (plan.kind === "gib-curve") rows.push(...gibSteps(plan));
  if (plan.kind === "tram")
    for (const group of TRAM_POINTS.slice(0, plan.depthMm > 0 ? 4 : 2)) rows.push({ group, at: 0 });
  if (plan.kind === "home-repeat") for (let at = 1; at <= plan.repeats; at += 1) rows.push({ group: "home", at });
  return rows.map((r, index) => ({ index, ...r }));
}

/**
 * In what the reading of a step is kept and shown; null where it is told in words.
 * @param plan - the plan
 * @param group - of the step
 * @returns the quantity
 * @example
 * handTestQuantity(defaultHandTest(defaultAxis("vertical-centre", "X"), "home-repeat"), "home") // "deviation"
 */
export function handTestQuantity(plan: HandTestPlan, group: string): QuantityKind | null {
  if (isFeelKind(plan.kind)) return FEEL_TESTS[plan.kind].quantity(group);
  if (plan.gib === "seize") return null;
  if (plan.kind !== "gib-curve" || group !== "friction") return "deviation";
  return plan.friction === "load" ? "load" : "force";
}

/**
 * Words to choose from for a step that is told in words; the index is what is kept.
 * @param plan - the plan
 * @param group - of the step
 * @returns the words, best first; none where a figure is read
 * @example handTestGrades(defaultHandTest(defaultAxis("vertical-centre", "X"), "home-repeat"), "home") // []
 */
export function handTestGrades(plan: HandTestPlan, group: string): readonly string[] {
  if (isFeelKind(plan.kind)) return FEEL_TESTS[plan.kind].grades(group);
  return plan.gib === "seize" ? SEIZE_GRADES : [];
}

/**
 * The steps still to be read, in order: those without a reading, less those that others have made
 * needless.
 * @param plan - the plan
 * @param values - what was read, by step
 * @returns the steps
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * handTestOpen(defaultHandTest(axis, "home-repeat"), [0.001]).length < handTestSteps(defaultHandTest(axis, "home-repeat")).length
 * // true
 */
export function handTestOpen(
  plan: HandTestPlan,
  values: readonly (number | null | undefined)[],
): readonly HandTestStep[] {
  const steps = handTestSteps(plan);
  const reads = steps.flatMap((s) => {
    const value = values[s.index];
    return typeof value === "number" ? [{ ...s, value }] : [];
  });
  const needless = plan.kind === "gib-curve" ? gibNeedless(plan, steps, reads) : new Set<number>();
  return steps.filter((s) => typeof values[s.index] !== "number" && !needless.has(s.index));
}

/**
 * What to do for a step, one action.
 * @param plan - the plan
 * @param step - which
 * @param system - units
 * @returns a sentence
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * handTestInstruction(defaultHandTest(axis, "home-repeat"), handTestSteps(defaultHandTest(axis, "home-repeat"))[0], "metric").length > 20
 * // true
 */
export function handTestInstruction(plan: HandTestPlan, step: HandTestStep, system: UnitSystem): string {
  if (isFeelKind(plan.kind)) return feelInstruction(plan.kind, { plan, step, system });
  const at = formatPosition(step.at, { system });
  switch (plan.kind) {
    case "crest-run":
      return step.at === plan.places[0]
        ? `Tip on the crest at ${step.group}${step.group === "0°" ? ", above the screw (before an upright one, on the side away from its casting)" : ", beside the screw"}. Go to ${at}, rock the screw for the highest reading, set it to zero and read.`
        : `Go on to ${at}, the same direction. Find the crest and read.`;
    case "gib-curve":
      return gibInstruction(plan, step, formatQuantity("turns", step.at, system));
    case "tram":
      return step.group === "left"
        ? "Indicator in the spindle, tip on the left point. Set it to zero and read; with two indicators, zero both on the same spot first."
        : `Turn the spindle by hand until the tip stands on the ${step.group} point. Lift it over slots. Read.`;
    case "home-repeat":
      return `Jog away, home the axis again, then read the indicator: homing ${step.at} of ${plan.repeats}.`;
  }
}

function gibInstruction(plan: HandTestPlan, step: HandTestStep, turns: string): string {
  switch (step.group) {
    case "rock":
      return `Adjuster ${turns} in: rock the member by hand, an indicator across it, and read the whole swing.`;
    case "lost motion":
      return `Adjuster ${turns} in: reverse the axis against the indicator and read what is lost.`;
    case "turning in":
      return `Turn the adjuster to ${turns} in and jog slowly over the whole travel, a hand on the stop.`;
    case "backing off":
      return `Back the adjuster off to ${turns} in, settle the gib with a short jog, then run the whole travel.`;
    default:
      return `Adjuster ${turns} in from where you began. Traverse slowly over the whole travel and read the ${plan.friction === "load" ? "drive load" : "pull"}.`;
  }
}

/**
 * How to set up, with the cautions of the axis.
 * @param axis - configuration
 * @param plan - the plan
 * @returns sentences in order
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * handTestSetup(axis, defaultHandTest(axis, "home-repeat")).length > 1 // true
 */
export function handTestSetup(axis: AxisConfig, plan: HandTestPlan): readonly string[] {
  if (isFeelKind(plan.kind)) return feelSetup(axis, plan.kind);
  const said: Record<SettingKind, readonly string[]> = {
    "crest-run": [
      "The ways first: a screw is set to ways that are already right.",
      "The indicator rides on the moving member, its tip on the crest of the thread, first above the screw (before an upright one), then beside it.",
      "Move one way only, so that slack does not enter.",
    ],
    "gib-curve": [
      "Warm the axis up and oil it as in work: a cold, dry way has another curve.",
      `${GIB_MODE_TEXT[plan.gib ?? "friction"].name}: ${GIB_MODE_TEXT[plan.gib ?? "friction"].tells.toLowerCase()}`,
      "Begin with the gib clearly loose and count turns in from there. A gravity axis is blocked while its gib is slack, and its gib is never judged by a pull.",
    ],
    tram: [
      "Isolate the spindle: it is turned by hand. Bare, stoned table; the vice or fixture is a check of its own.",
      "Mount the indicator so that it sweeps the whole span without touching.",
    ],
    "home-repeat": [
      "Indicator against the member at its home position, preloaded.",
      "Come to home the same way and at the same feed each time.",
    ],
  };
  const gravity = isGravityAxis(axis)
    ? "This axis can fall: keep out from under it; nothing is undone here."
    : "Hands out while the axis moves; slow feed; one hand on the stop.";
  return [...said[plan.kind], gravity];
}
