import { finding, isLooseFastener, type FindingId } from "../measure/findings";
import { bestHypothesis } from "./best-hypothesis";
import { type Posterior } from "./infer";
import { chanceOf, latentOf, slackShowsAs } from "./reports";
import type { Report } from "./evidence";

/** Below this chance an account does not explain what was noticed. */
const EXPLAINS = 0.15;

/**
 * What is said to be so and the most likely account does not explain: there may be a second thing wrong, or it was
 * mistaken. A symptom that a test has since denied is no longer asked about, but for what nobody imagines.
 * @param posterior - what is known so far
 * @returns the reports, those of tests among them
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * const known = infer({ axis, reports: [{ finding: "retainer-turns", present: true, source: "test" }, { finding: "home-varies", present: true, source: "symptom" }], magnitudes: [] });
 * unexplained(known).map((r) => r.finding) // [ "home-varies" ]
 */
export function unexplained(posterior: Posterior): readonly Report[] {
  const { causes, latents, evidence } = posterior;
  const { axis, reports, magnitudes } = evidence;
  const account = bestHypothesis(posterior).causes;
  const members = account.map((c) => causes.indexOf(c));
  const denied = new Set(reports.filter((r) => r.source === "test" && !r.present).map((r) => latentOf(r.finding)));
  const loses = account.some((c) => c.share) ? 1 : 0;
  return reports.filter((r, i) => {
    const id = latentOf(r.finding);
    // Looked at once more and not found: a slip of the test before. A screw that turned was tightened since.
    if (r.source === "test" && !isLooseFastener(r.finding) && deniedLater(reports.slice(i + 1), r)) return false;
    // What nobody imagines was there, whether or not it is there at the test.
    if (!r.present || (r.source === "symptom" && denied.has(id) && !finding(r.finding).plain)) return false;
    // The size itself says better than words whether motion is lost, and what of.
    if (id === "lost-motion" && magnitudes.some((m) => m.kind === "whole-chain")) return false;
    const lossChance = id === slackShowsAs(axis) || id === "lost-motion" ? loses : 0;
    if (id === "lost-motion" && loses) return false;
    return chanceOf(latents, { id, members, lossChance, axis }) < EXPLAINS;
  });
}

const deniedLater = (later: readonly Report[], { finding: id }: Report): boolean =>
  later.findLast((r) => r.source === "test" && r.finding === id)?.present === false;

/**
 * Findings that tests found both so and not so.
 * @param reports - all of them
 * @returns ids
 * @example contradictoryFindings([]) // []
 */
export function contradictoryFindings(reports: readonly Report[]): readonly FindingId[] {
  const tests = reports.filter((r) => r.source === "test");
  const yes = new Set(tests.filter((r) => r.present).map((r) => r.finding));
  const no = new Set(tests.filter((r) => !r.present).map((r) => r.finding));
  return [...yes].filter((id) => no.has(id));
}
