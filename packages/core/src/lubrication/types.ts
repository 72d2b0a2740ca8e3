import type { LinkId } from "../machine/axis";

export const LUBE_WAYS = [
  "nipple",
  "needle hole",
  "bead",
  "wipe",
  "drip",
  "central line",
  "bath",
  "clean",
  "look",
] as const;
/** What holds a member that can fall once the machine is off. */
export const HELD_BY = ["brake", "screw", "block", "pinned"] as const;
export type HeldBy = (typeof HELD_BY)[number];
export const DOSE_UNITS = ["strokes", "grams", "drops", "wipe"] as const;
export const FOUND_STATES = ["dry", "right", "flooded", "dirty", "blocked"] as const;
export type FoundState = (typeof FOUND_STATES)[number];

/** What an interval is scaled by; values and where they come from in {@link FACTORS}. */
export const FACTOR_IDS = ["covers", "dirt", "coolant", "duty", "load", "heat"] as const;
export type FactorId = (typeof FACTOR_IDS)[number];

/** Whichever comes first; null where it does not count. */
export interface IntervalRule {
  readonly days: number | null;
  readonly hours: number | null;
  readonly km: number | null;
  /** The maker’s bounds, days: never outside of them by learning. */
  readonly leastDays: number;
  readonly mostDays: number;
}

export const INTERVAL_METHODS = ["all", "calendar", "hours", "distance"] as const;
export type IntervalMethod = (typeof INTERVAL_METHODS)[number];

/** A place that wants a lubricant or a look. */
export interface LubricationPoint {
  readonly place: string;
  /** Axis letter; null for what belongs to no axis: spindle, air, coolant. */
  readonly letter: string | null;
  readonly link: LinkId | null;
  readonly way: (typeof LUBE_WAYS)[number];
  readonly lubricant: string;
  readonly dose: number;
  readonly doseUnit: (typeof DOSE_UNITS)[number];
  readonly minutes: number;
  /** What to do before it can be reached. */
  readonly access: string;
  readonly machineOff: boolean;
  /** Its member can fall: what holds it while the machine is off. Null: it cannot. */
  readonly heldBy?: HeldBy | null;
  /** The nut must be parted from its bracket to reach it: that is a job with an alignment. */
  readonly partsNut: boolean;
  /** Only for people who are trained for it. */
  readonly qualified?: boolean;
  /** Central system: its outlets from the pump outwards; else the places that share the dose, seen to one by one. */
  readonly outlets?: readonly string[];
  /** Central system: strokes that fill its lines once air is in them; {@link USUAL_PRIMING} where left out. */
  readonly priming?: number;
  /** What is looked at on the way, as {@link parseCheck} reads it. */
  readonly checks: readonly string[];
  readonly rule: IntervalRule;
  readonly factors: readonly FactorId[];
  /** How bad it is when it is forgotten, 1 to 3. */
  readonly weight: 1 | 2 | 3;
  readonly provenance: string;
}

/** How hard a machine is worked, from its meter or its working week. */
export interface Usage {
  readonly hoursPerDay: number;
  readonly kmPerDay: number;
}
