import { isGravityAxis, type AxisConfig } from "../../machine/axis";
import { availability, locateTest } from "../../diagnosis/tests";
import { formatPosition, requireBound, type QuantityKind, type UnitSystem } from "../../quantity";
import type { HandTestPlan, HandTestStep } from "./hand-types";

/** Tests done by hand and told in words or small readings, one after the other. */
export const FEEL_KINDS = ["rock", "hand-push", "wheel-turn", "motor-alone", "finger-feel", "coast"] as const;
export type FeelKind = (typeof FEEL_KINDS)[number];

type Row = Omit<HandTestStep, "index">;

interface FeelTest {
  readonly places: (axis: AxisConfig) => readonly number[];
  readonly repeats: number;
  readonly steps: (plan: HandTestPlan) => readonly Row[];
  /** What a group’s readings are kept in; a group that is told in words has grades instead. */
  readonly quantity: (group: string) => QuantityKind | null;
  /** Words to choose from, from least to most; the index is what is kept. */
  readonly grades: (group: string) => readonly string[];
  readonly instruction: (plan: HandTestPlan, step: Row, at: string) => string;
  readonly setup: readonly string[];
}

const across = (axis: AxisConfig, count: number): readonly number[] =>
  Array.from({ length: count }, (_, i) => Math.round(axis.travelMm * (0.05 + (0.9 * i) / (count - 1))));

export const MOTOR_SPEEDS = [25, 50, 100] as const;
const QUARTERS = [0, 90, 180, 270] as const;

export const FEEL_TESTS: Readonly<Record<FeelKind, FeelTest>> = {
  rock: {
    places: (axis) => across(axis, 3),
    repeats: 1,
    steps: ({ places }) => places.flatMap((at) => ["pushed", "pulled", "pushed again"].map((group) => ({ group, at }))),
    quantity: () => "deviation",
    grades: () => [],
    instruction: (_, { group }, at) =>
      group === "pushed"
        ? `At ${at}: push the member away with the flat of the hand, let the indicator settle, set it to zero and read.`
        : group === "pulled"
          ? `At ${at}: pull it towards you as hard as you pushed. Read.`
          : `At ${at}: push once more. It must come back to where it was.`,
    setup: [
      "The tip of the indicator stands across the way of travel, its stand on the bed.",
      "Near the way, by hand force only: a long lever bends the table instead.",
    ],
  },
  "hand-push": {
    places: (axis) => across(axis, 7),
    repeats: 1,
    steps: ({ places }) => [
      ...places.map((at) => ({ group: "out", at })),
      ...[...places].reverse().map((at) => ({ group: "back", at })),
      { group: "ends", at: 0 },
      { group: "feel", at: 0 },
    ],
    quantity: (group) => (group === "out" || group === "back" ? "force" : null),
    grades: (group) =>
      group === "ends"
        ? ["reaches both ends", "stops short of an end"]
        : group === "feel"
          ? ["smooth", "gritty, catches"]
          : [],
    instruction: (_, { group }, at) =>
      group === "ends"
        ? "Push to both ends of the travel. Does it reach them?"
        : group === "feel"
          ? "How did it feel on the way?"
          : `Pull slowly ${group === "out" ? "away from the motor" : "towards the motor"} past ${at} with a scale and read it while it moves.`,
    setup: [
      "A scale or force gauge in the line of travel. Read it moving: the first jerk is stiction.",
      "With the motor uncoupled the screw still turns: its bearings and nut drag along.",
    ],
  },
  "wheel-turn": {
    places: () => [],
    repeats: 4,
    steps: ({ repeats }) => Array.from({ length: repeats }, (_, i) => ({ group: "wheel", at: i + 1 })),
    quantity: () => null,
    grades: () => ["turns without touching", "just turns in contact", "will not turn"],
    instruction: (plan, { at }) =>
      `Wheel ${at} of ${plan.repeats}: hold the member still and turn the wheel with two fingers against its rail.`,
    setup: [
      "Number the wheels, fixed ones first; the eccentric ones are those that are set.",
      "Isolate: the drive must not hold or move the member.",
    ],
  },
  "motor-alone": {
    places: () => [...MOTOR_SPEEDS],
    repeats: 1,
    steps: ({ places }) => [
      { group: "by hand", at: 0 },
      { group: "brake", at: 0 },
      ...places.map((at) => ({ group: "sound", at })),
    ],
    quantity: () => null,
    grades: (group) =>
      group === "by hand"
        ? ["turns easily and evenly", "turns heavily"]
        : group === "brake"
          ? ["cool, or no brake", "hot"]
          : ["quiet", "another noise", "the same noise"],
    instruction: (_, { group, at }) =>
      group === "by hand"
        ? "Isolated, uncoupled, the brake released as the book says: turn the shaft by hand."
        : group === "brake"
          ? "The back of the hand near the brake: is it hot?"
          : `Guards closed, hands out: run the uncoupled motor at ${at} % of the speed of rapid. What do you hear?`,
    setup: [
      "Uncouple the motor; the key or clamp cannot fly off. A gravity axis is blocked before its motor and brake come away.",
      "Switch on only with everyone clear; isolate again before a hand goes near.",
    ],
  },
  "finger-feel": {
    places: () => [...QUARTERS],
    repeats: 1,
    steps: ({ places }) => ["pushed in", "pulled out"].flatMap((group) => places.map((at) => ({ group, at }))),
    quantity: () => null,
    grades: () => ["smooth", "even drag of grease", "rough or catches"],
    instruction: (_, { group, at }) =>
      `Inner ring ${group} lightly, from ${at}°: turn it a quarter with a clean fingertip.`,
    setup: [
      "The bearing clean enough to feel: thick grease hides what matters.",
      "Both ways of pushing, so that each row of balls carries once.",
    ],
  },
  coast: {
    places: () => [],
    repeats: 3,
    steps: ({ repeats }) =>
      ["forwards", "backwards"].flatMap((group) => Array.from({ length: repeats }, (_, i) => ({ group, at: i + 1 }))),
    quantity: () => null,
    grades: () => ["will not turn", "spins a little, then rests", "runs on by itself"],
    instruction: (plan, { group, at }) => `Flick the screw end ${group}, always alike: flick ${at} of ${plan.repeats}.`,
    setup: [
      "The nut must not drag: a nut that binds makes good bearings look tight.",
      "By feel, for those who set preload so; a torque or a cord pull at Set gives a figure.",
    ],
  },
};

/**
 * Is a series a test by hand?
 * @param kind - of the series
 * @returns whether it is
 * @example isFeelKind("hand-push") // true
 */
export function isFeelKind(kind: HandTestPlan["kind"]): kind is FeelKind {
  return (FEEL_KINDS as readonly string[]).includes(kind);
}

/**
 * What the test is called and takes, from the catalogue of tests.
 * @param kind - of the test
 * @returns name, minutes and what it tells
 * @example feelText("hand-push").minutes // 15
 */
export function feelText(kind: FeelKind): {
  readonly name: string;
  readonly minutes: number;
  readonly tells: string;
} {
  const test = locateTest(kind);
  return {
    name: test?.name ?? kind,
    minutes: test?.minutes ?? 0,
    tells: `Looks at ${test?.isolates ?? ""}.`,
  };
}

/**
 * Words when the test is not possible or not safe on this axis.
 * @param axis - configuration
 * @param kind - of the test
 * @returns why not; empty where it is possible
 * @example feelRefusal(defaultAxis("vertical-centre", "X"), "hand-push") // ""
 */
export function feelRefusal(axis: AxisConfig, kind: FeelKind): string {
  const test = locateTest(kind);
  if (!test) return "There is no such test.";
  const { possible, say } = availability(axis, test);
  return possible ? "" : say;
}

/**
 * Setting up, with what must be done first on this axis.
 * @param axis - configuration
 * @param kind - of the test
 * @returns sentences in order
 * @example feelSetup(defaultAxis("vertical-centre", "X"), "hand-push").length > 1 // true
 */
export function feelSetup(axis: AxisConfig, kind: FeelKind): readonly string[] {
  const test = locateTest(kind);
  const say = test ? availability(axis, test).say : "";
  const gravity =
    isGravityAxis(axis) && !say
      ? "This axis can fall: block it on the casting or cartridge flange and try the block with the drive off."
      : "";
  return [
    "Isolate, lock out, prove dead.",
    ...[say, gravity].filter(Boolean),
    ...FEEL_TESTS[kind].setup,
    `Spoilt by: ${test?.spoiltBy ?? ""}.`,
  ];
}

/**
 * Checks the plan of a test by hand against the axis.
 * @param plan - the plan
 * @param axis - configuration
 * @throws BoundError naming value and bound
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * checkFeel(defaultHandTest(axis, "hand-push"), axis) // undefined
 */
export function checkFeel(plan: HandTestPlan, axis: AxisConfig): void {
  const { kind, places, repeats } = plan;
  if (kind === "rock" || kind === "hand-push") {
    requireBound({ "number of places": places.length }, places.length >= 2 && places.length <= 50, "from 2 to 50");
    for (const place of places)
      requireBound({ place }, place >= 0 && place <= axis.travelMm, `from 0 to ${axis.travelMm} mm`);
  }
  if (kind === "wheel-turn")
    requireBound(
      { "number of wheels": repeats },
      Number.isInteger(repeats) && repeats >= 2 && repeats <= 16,
      "a whole number from 2 to 16",
    );
  if (kind === "coast")
    requireBound(
      { "flicks each way": repeats },
      Number.isInteger(repeats) && repeats >= 2 && repeats <= 10,
      "a whole number from 2 to 10",
    );
  if (kind === "motor-alone")
    for (const speed of places) requireBound({ speed }, speed > 0 && speed <= 100, "above 0 and up to 100 %");
  if (kind === "motor-alone" || kind === "finger-feel")
    requireBound({ "number of places": places.length }, places.length >= 1 && places.length <= 36, "from 1 to 36");
}

/**
 * What to do for a step, one action.
 * @param kind - of the test
 * @param options - `plan`: the plan; `step`: which; `system`: units
 * @returns a sentence
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * feelInstruction("hand-push", { plan: defaultHandTest(axis, "hand-push"), step: handTestSteps(defaultHandTest(axis, "hand-push"))[0], system: "metric" }).length > 20
 * // true
 */
export function feelInstruction(
  kind: FeelKind,
  { plan, step, system }: { readonly plan: HandTestPlan; readonly step: HandTestStep; readonly system: UnitSystem },
): string {
  const at = formatPosition(step.at, { system });
  return FEEL_TESTS[kind].instruction(plan, step, at);
}
