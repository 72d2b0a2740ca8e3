import type { AxisConfig } from "../axis";
import type { LinkId } from "../axis";
import type { QuantityKind } from "../quantity";

/** Something that is off its place while a job goes on, and must be back at its end. */
export interface OpenFact {
  readonly id: string;
  /** Said of the axis while it is so. */
  readonly words: string;
  /** The link that is opened; null for what belongs to no link. */
  readonly link: LinkId | null;
  /** On a gravity axis nothing carries the member any more once this is undone. */
  readonly carries?: boolean;
  /** The drive must not move while this is open. */
  readonly stopsDrive?: boolean;
  /** What proves the link afterwards. */
  readonly retest: RetestId | null;
  /** What must go back exactly as it was, or its change be recorded. */
  readonly keep?: "shim" | "pin" | "spacer";
}

export const RETESTS = ["chain", "travel", "home", "tram"] as const;
export type RetestId = (typeof RETESTS)[number];

export const PHASES = ["prepare", "secure", "work", "power", "prove", "close"] as const; // prettier-ignore
export type Phase = (typeof PHASES)[number];

export interface Part {
  readonly name: string;
  readonly count: number;
  /** Must be ordered before the job begins. */
  readonly order?: boolean;
  readonly cost?: "bearing-set" | "screw" | "small";
}

/** What was found at a step, and what it can change. */
export interface FindChoice {
  readonly id: string;
  readonly words: string;
  /** Offers to tighten, put everything back and retest instead of going on. */
  readonly offersStop?: boolean;
  /** Adds work to the sheet: a job kind of the same axis. */
  readonly offers?: JobKindId;
  readonly say?: string;
}

export interface StepWords {
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

/** A step of a trade, before it is fitted to an axis. */
export interface StepTemplate {
  readonly id: string;
  readonly scope: "axis" | "machine";
  readonly phase: Phase;
  readonly words: StepWords | ((axis: AxisConfig, options: JobOptions) => StepWords); // prettier-ignore
  readonly minutes: number;
  readonly people?: 1 | 2;
  /** Facts that must hold. */
  readonly needs?: readonly string[];
  /** Facts that must not hold. */
  readonly without?: readonly string[];
  readonly opens?: string;
  readonly closes?: string;
  readonly does?: string;
  /** Steps that come before it when they are on the sheet. */
  readonly after?: readonly string[];
  readonly tools?: readonly string[];
  readonly parts?: readonly Part[];
  readonly consumables?: readonly string[];
  readonly photo?: string;
  /** A deliberate sign-off by a named person: what they vouch for. */
  readonly hold?: string;
  readonly finds?: readonly FindChoice[];
  readonly reading?: StepReading;
  readonly torque?: "housing" | "small" | "bearing-nut";
  readonly retest?: RetestId;
  /** Hands are where the drive could move: needs the isolation. */
  readonly reachIn?: boolean;
  /** The drive is on: nothing that stops it may be open. */
  readonly powered?: boolean;
}

export const JOB_KIND_IDS = [
  "fixed-bearings",
  "support-bearing",
  "screw",
  "ball-nut",
  "coupling",
  "bearing-preload",
  "align-screw",
  "float-bracket",
  "gib",
  "carriages",
  "v-wheels",
  "rack-spot",
  "cage",
  "antibacklash",
  "home-switch",
  "tram",
  "tighten",
] as const;
export type JobKindId = (typeof JOB_KIND_IDS)[number];

export const PRELOAD_SCHOOLS = ["torque", "drag", "feel"] as const;
export const ALIGN_SCHOOLS = ["carriage", "crest"] as const;
export const GIB_SCHOOLS = [
  "knee",
  "seize-and-back",
  "lost-motion",
  "rock",
] as const;
export const NUT_SERVICES = ["rebuild", "flush", "send-out"] as const;

export interface JobOptions {
  readonly preload: (typeof PRELOAD_SCHOOLS)[number];
  readonly align: (typeof ALIGN_SCHOOLS)[number];
  readonly gib: (typeof GIB_SCHOOLS)[number];
  readonly nutService: (typeof NUT_SERVICES)[number];
  /** Renew the coupling insert while it is apart. */
  readonly newInsert: boolean;
  /** Renew the support bearing too. */
  readonly farEndToo: boolean;
}

/** A kind of job: where it fits, and the steps that make it, before what they bring along. */
export interface JobKind {
  readonly id: JobKindId;
  readonly name: string;
  readonly fits: (axis: AxisConfig) => boolean;
  /** Ids of the steps that are the work itself. */
  readonly steps: (axis: AxisConfig, options: JobOptions) => readonly string[];
  /** Common practice, no source, where nothing else is said. */
  readonly provenance: string;
}
