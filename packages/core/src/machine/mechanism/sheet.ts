import type { AxisConfig } from "../axis";
import type { JointId } from "./joints";
import type { RetestId } from "./retests";
import type { Effect, MachineState, Place } from "./state";
import type { Verb } from "./ways";

/** Where the hands are while a step is done. */
export const HANDS = ["out", "in", "under"] as const;
export type Hands = (typeof HANDS)[number];

/** A part that a step puts in, and the joint it belongs to; null for what belongs to none. */
export interface SheetPart {
  readonly name: string;
  readonly count: number;
  readonly of: JointId | null;
  readonly order: boolean;
  readonly cost: "bearing-set" | "screw" | "small";
}

/** What a step is to the mechanism: everything the audit looks at. */
export interface MechanismStep {
  readonly id: string;
  /** Null for what concerns the machine as a whole. */
  readonly axis: string | null;
  readonly hands: Hands;
  readonly verbs: readonly Verb[];
  /** Where the member must stand; null where it does not matter. */
  readonly at: Place | null;
  /** Notes made by earlier steps that this one uses. */
  readonly uses: readonly string[];
  readonly effects: readonly Effect[];
  readonly tools: readonly string[];
  readonly people: 1 | 2;
  readonly parts: readonly SheetPart[];
  /** What somebody vouches for by name; empty for none. */
  readonly hold: string;
  readonly retest: RetestId | null;
  /** Something put back as it was, or its change recorded. */
  readonly keeps: JointId | null;
  readonly title: string;
  readonly how: readonly string[];
  /** How the axis stands after it, in words. */
  readonly state: string;
}

/** A sheet as the audit takes it. */
export interface MechanismSheet {
  readonly axes: readonly {
    readonly letter: string;
    readonly config: AxisConfig;
  }[];
  readonly start: MachineState;
  readonly steps: readonly MechanismStep[];
  readonly kit: {
    readonly tools: readonly string[];
    readonly people: 1 | 2;
    readonly parts: readonly string[];
  };
}
