import { isLooseFastener, type FindingId } from "../measure/findings";
import type { Evidence } from "./evidence";
import type { Posterior } from "./infer";
import type { Cause } from "./knowledge";

/** The whole chain was measured and loses less than may be left, U on top of it; or the control showed the same of a scale axis. */
function losesLittle({ axis, magnitudes, reports }: Evidence): boolean {
  const whole = magnitudes.findLast((m) => m.kind === "whole-chain");
  if (whole) return Math.abs(whole.reversalValueMm) + 2 * whole.uMm <= axis.limits.leaveMm;
  return reports.findLast((r) => r.finding === "scale-gap" && r.source === "test")?.present === false;
}

/**
 * May a cause be let be, whether or not it is there? Where the whole chain loses less than may be left, so does each of
 * its links: what would show as nothing but its share of that is not looked for. Not a fastener that came loose, which
 * does not stay as it is, nor what the control adds, nor what anything else speaks for. Source: common practice, no
 * source.
 * @param evidence - of the case
 * @param cause - one that the axis can have
 * @returns whether it may
 * @example
 * const magnitudes = [{ kind: "whole-chain", reversalValueMm: 0.004, uMm: 0.001 }];
 * mayBeLet({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes }, causeById("coupling-insert")) // true
 */
export function mayBeLet(evidence: Evidence, cause: Cause): boolean {
  if (!cause.share || cause.share.slack === "entered") return false;
  const shown = Object.keys(cause.shows) as FindingId[];
  if (shown.some((id) => isLooseFastener(id) && cause.shows[id] === "++")) return false;
  const spokenFor = evidence.reports.some((r) => r.present && shown.includes(r.finding));
  return !spokenFor && losesLittle(evidence);
}

/** Accounts of which nothing has to be mended, by index, and their probability. */
export interface LetBe {
  readonly accounts: readonly number[];
  readonly probability: number;
}

/**
 * The accounts by which nothing is to be mended: no fault, what is normal, and what may be let be.
 * @param posterior - what is known so far
 * @returns them and how likely they are together
 * @example letBe(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })).probability < 0.5 // true
 */
export function letBe({ causes, hypotheses, evidence }: Posterior): LetBe {
  const idle = causes.map((c) => c.normal === true || mayBeLet(evidence, c));
  const accounts = hypotheses.flatMap((h, i) => (h.members.every((m) => idle[m]) ? [i] : []));
  return { accounts, probability: accounts.reduce((sum, i) => sum + hypotheses[i].probability, 0) };
}
