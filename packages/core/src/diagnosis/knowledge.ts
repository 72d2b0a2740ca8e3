import type { AxisConfig } from "../machine/axis";
import type { FindingId } from "../measure/findings";

/**
 * How strongly a cause shows as a finding. Judgements of the trade (common practice, no source);
 * the numbers are the stated mapping from the words, not measurements.
 */
export const LEVELS = {
  "++": { text: "nearly always", probability: 0.94 },
  "+": { text: "often", probability: 0.6 },
  "±": { text: "sometimes", probability: 0.3 },
} as const;
export type Level = keyof typeof LEVELS;

/** Where motion can be lost: finer than the drawn links, since tests can tell these apart. */
export const SLACKS = [
  "coupling",
  "bearings",
  "housing",
  "windup",
  "nut",
  "wear",
  "bracket",
  "mesh",
  "entered",
] as const;
export type SlackId = (typeof SLACKS)[number];

/** What a remedy spends: nothing, small parts, a bearing set, a screw with nut. */
export type CostClass = 0 | 1 | 2 | 3;

/** A condition on the axis’ configuration: each named field must be one of the values. */
export type Fitting = {
  readonly [K in keyof AxisConfig]?: readonly AxisConfig[K][];
} & { readonly gravity?: boolean };

export interface Remedy {
  readonly text: string;
  readonly minutes: number;
  readonly costClass: CostClass;
  /** What kind of act it is; decides which options are compared. */
  readonly kind: "none" | "set" | "tighten" | "adjust" | "clean" | "replace" | "refer";
}

export interface Cause {
  readonly id: string;
  readonly name: string;
  /** Chain link it sits on; `none` for what is no fault of the chain. */
  readonly link: CauseLink;
  /** Axes that can have it: any of these fits. */
  readonly fits: readonly Fitting[];
  /** Relative, before age and history (common practice, no source). */
  readonly prior: number;
  /** Lost motion it adds at the table, µm, typical least and most; null when it adds none. */
  readonly share: {
    readonly slack: SlackId;
    readonly um: readonly [number, number];
    readonly bothWays?: boolean;
  } | null;
  readonly shows: Partial<Record<FindingId, Level>>;
  readonly remedy: Remedy;
  /** Says that this is how things are, not a fault to be mended. */
  readonly normal?: boolean;
  /** Normal things: how often it is so of an axis that can have it, whatever else is wrong (common practice, no source). */
  readonly beside?: number;
  /** A screw or nut is bought only when one of these is seen or the test has shown it. */
  readonly provenBy?: readonly (FindingId | "nut-flank")[];
  readonly provenance: string;
}

export const CAUSE_LINKS = [
  "none",
  "motor",
  "coupling",
  "end-bearings",
  "screw",
  "nut",
  "bracket",
  "way",
  "transmission",
  "feedback",
] as const;
export type CauseLink = (typeof CAUSE_LINKS)[number];

/**
 * Does an axis have what a condition asks for?
 * @param axis - configuration
 * @param fitting - values of its fields, any of those named
 * @returns whether all named fields match
 * @example fits(defaultAxis("vertical-centre", "X"), { transmission: ["rack"] }) // false
 */
export function fits(axis: AxisConfig, fitting: Fitting): boolean {
  return Object.entries(fitting).every(([key, wanted]) => {
    if (key === "gravity") return (axis.orientation !== "horizontal") === wanted;
    const value = axis[key as keyof AxisConfig];
    return (wanted as readonly unknown[]).includes(value);
  });
}

/**
 * Can an axis have this cause?
 * @param axis - configuration
 * @param cause - the cause, which names the axes that can have it
 * @returns whether any of its conditions holds
 * @example causeFits(defaultAxis("vertical-centre", "X"), causeById("pinion-worn")) // false
 */
export function causeFits(axis: AxisConfig, cause: Pick<Cause, "fits">): boolean {
  return cause.fits.length === 0 || cause.fits.some((f) => fits(axis, f));
}
