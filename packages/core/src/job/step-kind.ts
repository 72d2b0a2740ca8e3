import type { AxisConfig } from "../machine/axis";
import type {
  MechanismState,
  Effect,
  Hands,
  JointId,
  JointNeed,
  JointState,
  MechanismStep,
  Place,
  Power,
  RetestId,
  SheetPart,
  Verb,
  Way,
} from "../machine/mechanism";
import type { QuantityKind } from "../quantity";

export const PHASES = ["prepare", "secure", "work", "power", "prove", "close"] as const;
export type Phase = (typeof PHASES)[number];

export const JOB_KIND_IDS = [
  "tighten",
  "fixed-bearings",
  "support-bearing",
  "screw",
  "ball-nut",
  "grease-nut",
  "coupling",
  "belt",
  "bearing-preload",
  "align-screw",
  "float-bracket",
  "nut-bearing",
  "gib",
  "carriages",
  "v-wheels",
  "rack-spot",
  "pinion",
  "gantry-square",
  "cage",
  "antibacklash",
  "home-switch",
  "tram",
  "plumb",
] as const;
export type JobKindId = (typeof JOB_KIND_IDS)[number];

export const PRELOAD_METHODS = ["torque", "drag", "feel"] as const;
export const ALIGN_METHODS = ["carriage", "crest"] as const;
export const GIB_METHODS = ["knee", "seize-and-back", "lost-motion", "rock"] as const;
export const NUT_SERVICES = ["flush", "rebuild", "send-out"] as const;

export interface JobOptions {
  readonly preload: (typeof PRELOAD_METHODS)[number];
  readonly align: (typeof ALIGN_METHODS)[number];
  readonly gib: (typeof GIB_METHODS)[number];
  readonly nutService: (typeof NUT_SERVICES)[number];
  /** Renew the coupling insert while it is apart. */
  readonly newInsert: boolean;
  /** Renew the support bearing too. */
  readonly farEndToo: boolean;
  /** A new screw gets new end bearings: an option with its cost, not a must. */
  readonly newBearings: boolean;
  /** A circle beside the loss: for a shop that has a bar. Sheets kept before it could be asked for do not say. */
  readonly circle?: boolean;
}

export const DEFAULT_OPTIONS: JobOptions = {
  preload: "torque",
  align: "carriage",
  gib: "knee",
  nutService: "flush",
  newInsert: true,
  farEndToo: false,
  newBearings: true,
};

/** What was found at a step, and what it can change. */
export interface FindChoice {
  readonly id: string;
  readonly label: string;
  /** Offers to close properly what is open, and retest, instead of going on. */
  readonly offersStop?: boolean;
  /** Adds work to the sheet. */
  readonly offers?: JobKindId;
  /** Does not go straight on: a reason is asked for. */
  readonly asks?: boolean;
  readonly say?: string;
}

export interface StepText {
  readonly title: string;
  readonly why: string;
  readonly how: readonly string[];
  readonly caution?: string;
  readonly good?: string;
  readonly ifNot?: string;
}

export interface StepReading {
  readonly label: string;
  readonly quantity: QuantityKind;
  /** Core units; outside of it the step asks for a reason. */
  readonly from?: number;
  readonly to?: number;
  readonly optional?: boolean;
}

/** All that a step can ask before it is fitted: the axis, what is wanted, how it stands. */
export interface StepContext {
  readonly config: AxisConfig;
  readonly letter: string;
  readonly options: JobOptions;
  /** Before the step. */
  readonly state: MechanismState;
  readonly power: Power;
  /** Kinds of work asked for on this axis. */
  readonly kinds: ReadonlySet<JobKindId>;
  /** Steps of this axis that are on the sheet, by bare id. */
  readonly sheet: ReadonlySet<string>;
}

export type Of<T> = T | ((c: StepContext) => T);

/** A step of the trade, before it is fitted to an axis and a state. */
export interface StepKind {
  readonly id: string;
  readonly phase: Phase;
  readonly scope?: "machine";
  readonly fits?: (config: AxisConfig) => boolean;
  readonly hands: Hands;
  /** Wanted before it; null where it does not matter. */
  readonly power: Power | null;
  readonly verbs?: Of<readonly Verb[]>;
  readonly at?: Of<Place | null>;
  /** The way to get there that a mechanic would take, where there are several. */
  readonly prefers?: Way;
  readonly uses?: Of<readonly string[]>;
  readonly needs?: Of<readonly JointNeed[]>;
  readonly effects?: Of<readonly Effect[]>;
  /** Puts back: its joints end nearer to tight than it found them. */
  readonly restores?: boolean;
  /** Of a step that puts back: only where it was opened so far. */
  readonly wanted?: (open: (joint: JointId) => JointState) => boolean;
  readonly text: Of<StepText>;
  readonly minutes: Of<number>;
  readonly people?: Of<1 | 2>;
  readonly tools?: Of<readonly string[]>;
  readonly parts?: Of<readonly SheetPart[]>;
  readonly consumables?: readonly string[];
  readonly photo?: string;
  readonly hold?: string;
  readonly finds?: Of<readonly FindChoice[]>;
  readonly reading?: Of<StepReading | null>;
  /** Joints whose fasteners are tightened here: each by its own name and torque. */
  readonly torques?: Of<readonly JointId[]>;
  readonly retest?: RetestId;
  readonly keeps?: JointId;
}

/** A step on a sheet: what it is to the mechanism, and what is said of it. */
export interface PlannedStep extends MechanismStep {
  readonly phase: Phase;
  readonly kind: string;
  readonly why: string;
  readonly caution: string;
  readonly good: string;
  readonly ifNot: string;
  readonly minutes: number;
  readonly consumables: readonly string[];
  readonly photo: string;
  readonly finds: readonly FindChoice[];
  readonly reading: StepReading | null;
  /** Fastener by fastener: name, count, torque and whose word it is. */
  readonly torques: readonly string[];
}

/**
 * What may depend on how the axis stands, for one state.
 * @param of - a value, or how it follows from the state
 * @param c - the axis and how it stands
 * @returns the value
 * @example valueOf(3, {}) // 3
 */
export function valueOf<T>(of: Of<T>, c: StepContext): T {
  return typeof of === "function" ? (of as (c: StepContext) => T)(c) : of;
}
