import type { AxisConfig } from "../machine/axis";
import type { Cause } from "./knowledge";

/** Working conditions and history that move the priors; null where nobody knows. */
export interface CaseContext {
  readonly ageYears: number | null;
  /** Since somebody last worked on this axis. */
  readonly weeksSinceWork: number | null;
  readonly crash: boolean | null;
  readonly moved: boolean | null;
  readonly longStop: boolean | null;
  readonly freshParts: boolean | null;
  readonly dusty: boolean | null;
  readonly samePlace: boolean | null;
  readonly parameterChange: boolean | null;
  /** It shows only so: after a night, or after hours of work. */
  readonly only: "cold" | "warm" | null;
}

export const UNKNOWN_CONTEXT: CaseContext = {
  ageYears: null,
  weeksSinceWork: null,
  crash: null,
  moved: null,
  longStop: null,
  freshParts: null,
  dusty: null,
  samePlace: null,
  parameterChange: null,
  only: null,
};

export interface PriorRule {
  readonly when: string;
  readonly causes: readonly string[];
  readonly factor: number;
  readonly holds: (context: CaseContext, axis: AxisConfig) => boolean;
}

const AFTER_WORK = [
  "coupling-screw",
  "coupling-eccentric",
  "retainer-loose",
  "nut-preload-lost",
  "end-bearing-overtight",
  "housing-loose",
  "bracket-loose",
  "screw-misaligned",
  "gib-tight",
  "antibacklash-tight",
  "pinion-loose",
  "flange-loose",
  "screw-clamp-loose",
  "racks-out-of-step",
  "wheel-tight",
  "home-marker-near",
];
const AGEING = [
  "end-bearing-worn",
  "coupling-insert",
  "nut-worn",
  "screw-worn-middle",
  "support-bearing",
  "belt-slack",
  "carriage-failed",
  "pinion-worn",
  "antibacklash-worn",
  "motor-bearing",
];

/** What moves the priors, and by what factor (common practice, no source). */
export const PRIOR_RULES: readonly PriorRule[] = [
  {
    when: "somebody worked on this axis in the last three months",
    causes: AFTER_WORK,
    factor: 3,
    holds: (c) => c.weeksSinceWork !== null && c.weeksSinceWork <= 13,
  },
  {
    when: "nobody has worked on it for two years",
    causes: AFTER_WORK,
    factor: 0.6,
    holds: (c) => c.weeksSinceWork !== null && c.weeksSinceWork > 104,
  },
  { when: "older than ten years", causes: AGEING, factor: 2, holds: (c) => c.ageYears !== null && c.ageYears >= 10 },
  { when: "younger than two years", causes: AGEING, factor: 0.4, holds: (c) => c.ageYears !== null && c.ageYears < 2 },
  {
    when: "after a crash",
    causes: [
      "screw-bent",
      "housing-loose",
      "coupling-screw",
      "tram-out",
      "screw-misaligned",
      "end-bearing-worn",
      "racks-out-of-step",
    ],
    factor: 3,
    holds: (c) => c.crash === true,
  },
  {
    when: "the machine was moved",
    causes: ["tram-out", "screw-misaligned", "gib-tight"],
    factor: 2,
    holds: (c) => c.moved === true,
  },
  {
    when: "after a long stop",
    causes: ["way-dry", "home-switch", "brake-drags", "nut-dirty"],
    factor: 2.5,
    holds: (c) => c.longStop === true,
  },
  {
    when: "parts are fresh",
    causes: ["normal-running-in", "end-bearing-overtight", "screw-misaligned"],
    factor: 4,
    holds: (c) => c.freshParts === true,
  },
  { when: "no fresh parts", causes: ["normal-running-in"], factor: 0.15, holds: (c) => c.freshParts === false },
  {
    when: "dusty or abrasive work",
    causes: ["nut-dirty", "chips-in-way", "nut-worn", "screw-worn-middle", "rack-spot", "carriage-failed"],
    factor: 2,
    holds: (c) => c.dusty === true,
  },
  {
    when: "the same place of the travel is worked all the time",
    causes: ["screw-worn-middle", "way-dry"],
    factor: 2,
    holds: (c) => c.samePlace === true,
  },
  {
    when: "sudden since a parameter change",
    causes: ["control-comp", "control-interlock", "stepper-stall", "travel-scale"],
    factor: 6,
    holds: (c) => c.parameterChange === true,
  },
  {
    when: "only when cold",
    causes: ["way-dry", "chips-in-way", "nut-dirty"],
    factor: 1.5,
    holds: (c) => c.only === "cold",
  },
  {
    when: "only when warm",
    causes: ["end-bearing-overtight", "screw-misaligned", "gib-tight"],
    factor: 2,
    holds: (c) => c.only === "warm",
  },
  {
    when: "a gravity axis",
    causes: ["end-bearing-worn"],
    factor: 1.5,
    holds: (_, a) => a.orientation !== "horizontal",
  },
  {
    when: "no drag brake in the axis’ data",
    causes: ["normal-dragbrake"],
    factor: 0.25,
    holds: (_, a) => !a.dragBrake,
  },
  {
    when: "nut preloaded by the maker",
    causes: ["nut-clearance"],
    factor: 0,
    holds: (_, a) => a.nut === "double" || a.nut === "single-preloaded",
  },
];

/** Stands among the causes for a case in which nothing is wrong, or only what is normal. */
export const NOTHING_WRONG = "nothing-wrong";

/** A shop’s own view of a cause: its override of the prior, and what its closed cases have taught. */
export interface ShopPriors {
  readonly overrides: Readonly<Record<string, number>>;
  readonly learned: Readonly<Record<string, number>>;
  /** Of what the causes found there show, how much was told; the usual where nothing is known of it. */
  readonly candour?: number;
}
export const NO_SHOP_PRIORS: ShopPriors = { overrides: {}, learned: {} };

/**
 * Relative weight of a cause before any evidence, and the rules that moved it.
 * @param cause - the cause
 * @param options - `axis`: configuration; `context`: age, recent work and the like; `shop`: what this shop found
 *   before
 * @returns the weight, 1 for a common cause, and the rules in words
 * @example
 * priorWeight(causeById("nut-worn"), { axis: defaultAxis("vertical-centre", "X"), context: UNKNOWN_CONTEXT, shop: NO_SHOP_PRIORS }).because
 * // []
 */
export function priorWeight(
  cause: Cause,
  { axis, context, shop }: { readonly axis: AxisConfig; readonly context: CaseContext; readonly shop: ShopPriors },
): { readonly weight: number; readonly because: readonly string[] } {
  let weight = (shop.overrides[cause.id] ?? cause.prior) * (shop.learned[cause.id] ?? 1);
  const because: string[] = [];
  for (const rule of PRIOR_RULES) {
    if (!rule.causes.includes(cause.id) || !rule.holds(context, axis)) continue;
    weight *= rule.factor;
    because.push(rule.when);
  }
  return { weight, because };
}
