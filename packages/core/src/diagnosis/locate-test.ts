import type { FindingId } from "../measure/findings";
import type { Fitting } from "./knowledge";
import type { MagnitudeKind } from "./slack";

/** A test that splits the chain or rules something out. */
export interface LocateTest {
  readonly id: string;
  readonly name: string;
  readonly isolates: string;
  /** Typical, with getting there (common practice, no source). */
  readonly minutes: number;
  readonly tools: string;
  /** Yes-or-no findings it reports. */
  readonly findings: readonly FindingId[];
  /** Size it measures. */
  readonly magnitude?: MagnitudeKind;
  readonly fits: readonly Fitting[];
  /** Costs nothing but a look: comes first unless evidence speaks against it. */
  readonly free?: boolean;
  /** The motor must be uncoupled: a gravity axis must be blocked first. */
  readonly opens?: boolean;
  /** Tests of one set-up cost less together: same cover off, same place of the indicator. */
  readonly setup?: "bearing-end" | "at-member" | "on-member" | "motor-off" | "listening";
  readonly how: readonly string[];
  readonly spoiltBy: string;
  /** The axis is recorded: what it sounds like is worked out, and nobody answers anything. */
  readonly hears?: boolean;
  /** Done as a guided run of readings at station Measure’s bench. */
  readonly guided?: boolean;
}
