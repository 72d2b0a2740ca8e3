import { defaultAxis } from "../machine/axis";
import type { FindingId } from "../measure/findings";
import { causeById } from "./causes";
import type { Magnitude } from "./components";
import type { Cause } from "./knowledge";
import type { Posterior } from "./infer";
import type { Report } from "./evidence";

/** A usual X axis of a vertical centre. */
export const axis = defaultAxis("vertical-centre", "X");

/** Noticed, or noticed not to be. */
export const says = (finding: FindingId, present = true): Report => ({ finding, present, source: "symptom" });

/** Found by a test, or found not to be. */
export const found = (finding: FindingId, present = true): Report => ({ finding, present, source: "test" });

/** Probability of a cause. */
export const chance = (p: Posterior, id: string): number => p.marginals[p.causes.findIndex((c) => c.id === id)];

/** A measured size with its standard uncertainty, both in µm. */
export const magnitude = (kind: Magnitude["kind"], um: number, u = 1): Magnitude => ({
  kind,
  reversalValueMm: um / 1000,
  uMm: u / 1000,
});

/** A loss of the whole chain. */
export const whole = (um: number, u = 1): Magnitude => magnitude("whole-chain", um, u);

/** A cause of the catalogue. */
export function causeOf(id: string): Cause {
  const cause = causeById(id);
  if (!cause) throw new Error(`No cause is called ${id}.`);
  return cause;
}
