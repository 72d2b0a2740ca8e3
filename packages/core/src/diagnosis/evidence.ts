import type { AxisConfig } from "../machine/axis";
import type { FindingId } from "../measure/findings";
import type { Magnitude } from "./components";
import type { CaseContext, ShopPriors } from "./context";
import type { Cause } from "./knowledge";

/** Somebody says that a finding is so or not. Unknown answers are not reports. */
export interface Report {
  readonly finding: FindingId;
  readonly present: boolean;
  readonly source: "symptom" | "test";
  /** An id of the caller’s, to find the evidence again. */
  readonly ref?: string;
}

/** All that is known of an axis in a case. */
export interface Evidence {
  readonly axis: AxisConfig;
  readonly context?: CaseContext;
  readonly reports: readonly Report[];
  readonly magnitudes: readonly Magnitude[];
  readonly shop?: ShopPriors;
  readonly causes?: readonly Cause[];
  /** Nothing else was noticed: what was not told speaks a little against itself. */
  readonly allTold?: boolean;
  /** Another axis of its kind is in the shop, to hear the two against each other; unknown counts as yes. */
  readonly sister?: boolean;
  /** What the latest recording of the axis was like, if there is one that counts. */
  readonly sound?: SoundHeard;
}

/** A recording, worked out. */
export interface SoundHeard {
  /** Chance of each kind of sound, “sound” for nothing wrong: of {@link soundChances}. */
  readonly chances: Readonly<Record<string, number>>;
  readonly ref?: string;
}
