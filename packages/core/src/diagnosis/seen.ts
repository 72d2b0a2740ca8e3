import type { AxisConfig } from "../machine/axis";
import { finding, type FindingGroup, type FindingId } from "../measure/findings";
import { bestHypothesis } from "./best-hypothesis";
import { fastenersToTry } from "./fasteners-to-try";
import { type Posterior } from "./infer";
import { pointless } from "./pointless";
import { latentOf } from "./reports";
import type { Report } from "./evidence";
import type { Cause } from "./knowledge";
import type { LocateTest } from "./locate-test";
import { unexplained } from "./unexplained";
import { MAGNITUDES, seenBy, type MagnitudeKind } from "./slack";
import { availability, findingsOf, LOCATE_TESTS, type TestId } from "./tests";

/** Sizes that show a cause’s share by itself; the whole chain only where nothing narrower sees it. */
function sizesOf(axis: AxisConfig, cause: Cause): readonly MagnitudeKind[] {
  const { share } = cause;
  // What the control adds shows in nothing but the whole, as everything does: only looking it up tells.
  if (!share || share.slack === "entered") return [];
  const possible = (kind: MagnitudeKind): boolean =>
    LOCATE_TESTS.some((t) => magnitudeOfTest(t) === kind && availability(axis, t).possible);
  const all = MAGNITUDES.filter((kind) => possible(kind) && seenBy(axis, kind).includes(share.slack));
  const narrow = all.filter((kind) => kind !== "whole-chain");
  return narrow.length ? narrow : all;
}

const magnitudeOfTest = (test: LocateTest): MagnitudeKind | undefined => test.magnitude;

/** What a test must find for the cause to have been looked at: what nearly always shows with it, noise only if nothing else does. */
function signsOf(axis: AxisConfig, cause: Cause): readonly FindingId[] {
  const reported = new Set(
    LOCATE_TESTS.filter((t) => t.id === "in-hand" || availability(axis, t).possible).flatMap((t) =>
      findingsOf(axis, t),
    ),
  );
  const strong = (Object.keys(cause.shows) as FindingId[]).filter((id) => cause.shows[id] === "++" && reported.has(id));
  const silent = strong.filter((id) => finding(id).group !== "noise");
  return silent.length || sizesOf(axis, cause).length ? silent : strong;
}

/** What is plain to see and comes of nothing else needs no instrument: a cage that stops short, a supply that clicks. */
function isPlain(posterior: Posterior, cause: Cause): boolean {
  const others = posterior.causes.filter((c) => c.id !== cause.id);
  return posterior.evidence.reports.some(
    (r) =>
      r.present &&
      finding(r.finding).plain &&
      cause.shows[r.finding] === "++" &&
      !others.some((c) => c.shows[r.finding] === "++"),
  );
}

/**
 * Has a test looked at the part, and found it so? What is only told makes a cause likely, however many tell it.
 * Source: common practice, no source.
 * @param posterior - what is known so far
 * @param cause - one of its causes
 * @returns whether a test found what nearly always shows with it, or measured its share; or it is plain to see; true
 *   too for a cause that no test on this axis can look at
 * @example
 * const known = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [{ finding: "rumble", present: true, source: "symptom" }], magnitudes: [] });
 * isSeen(known, causeById("end-bearing-worn")) // false
 */
export function isSeen(posterior: Posterior, cause: Cause): boolean {
  const { axis, reports, magnitudes } = posterior.evidence;
  const signs = signsOf(axis, cause);
  const sizes = sizesOf(axis, cause);
  if (signs.length === 0 && sizes.length === 0) return true;
  return (
    isPlain(posterior, cause) ||
    reports.some((r) => r.source === "test" && r.present && signs.includes(latentOf(r.finding))) ||
    magnitudes.some((m) => sizes.includes(m.kind) && m.reversalValueMm > 2 * m.uMm) ||
    overCompensated(posterior, cause)
  );
}

/** A table that gains at a reversal is driven too far by the control: nothing else does that. */
function overCompensated({ evidence }: Posterior, cause: Cause): boolean {
  if (cause.share?.slack !== "entered") return false;
  return evidence.magnitudes.some((m) => m.kind === "whole-chain" && m.reversalValueMm < -2 * m.uMm);
}

const FASTENERS_AT: Partial<Record<Cause["link"], readonly FindingId[]>> = {
  coupling: ["coupling-turns"],
  "end-bearings": ["retainer-turns", "housing-turns"],
  screw: ["clamp-turns"],
  nut: ["bracket-turns", "flange-turns"],
  bracket: ["bracket-turns"],
  transmission: ["pinion-turns"],
};

/**
 * Fasteners at the link of a cause that nobody has put a wrench on: they are tried before its parts are blamed.
 * Source: common practice, no source.
 * @param posterior - what is known so far
 * @param cause - one of its causes
 * @returns the findings they would be; none where all were tried, or it is none of the mechanics
 * @example
 * const known = infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] });
 * untriedFasteners(known, causeById("end-bearing-worn")) // [ "retainer-turns", "housing-turns" ]
 */
export function untriedFasteners(posterior: Posterior, cause: Cause): readonly FindingId[] {
  const { axis, reports } = posterior.evidence;
  if (cause.normal || !cause.share) return [];
  const there = fastenersToTry(axis).map((f) => f.finding);
  const tried = new Set(reports.filter((r) => r.source === "test").map((r) => r.finding));
  // One that turned is the free remedy itself: what else is there to try comes after it.
  return (FASTENERS_AT[cause.link] ?? []).filter((id) => there.includes(id) && !tried.has(id));
}

/**
 * Tests that a verdict still needs before it may be called sure, cheapest first, covers last.
 * @param posterior - what is known so far
 * @returns ids; empty when all that it names was looked at, and the chain where it names nothing
 * @example neededTests(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })).length > 0 // true
 */
export function neededTests(posterior: Posterior): readonly TestId[] {
  const { axis } = posterior.evidence;
  const { causes } = bestHypothesis(posterior);
  const asked = openSymptoms(posterior).flatMap((o) => o.tests);
  if (causes.length === 0) return [...new Set([...asked, ...uncovered(posterior)])];
  const needed = causes.flatMap((cause): TestId[] => {
    if (untriedFasteners(posterior, cause).length) return ["fastener-check"];
    if (isSeen(posterior, cause)) return [];
    return [...testsFor(axis, { signs: signsOf(axis, cause), sizes: sizesOf(axis, cause) })];
  });
  return [...new Set([...needed, ...asked, ...beforeMending(posterior, causes)])];
}

/** What is mended is proven by the same test as before: without a figure from before there is none to compare with. */
function beforeMending({ evidence }: Posterior, causes: readonly Cause[]): readonly TestId[] {
  const { axis, magnitudes } = evidence;
  const mechanical = causes.some((c) => !c.normal && c.link !== "none" && c.link !== "feedback");
  if (!mechanical || magnitudes.some((m) => m.kind === "whole-chain") || seenBy(axis, "whole-chain").length === 0)
    return [];
  return pointless(evidence, "whole-chain") ? [] : ["whole-chain"];
}

/** A symptom that nothing named explains, and the tests that would look for what does. */
interface OpenSymptom {
  readonly report: Report;
  /** Those that were not made yet. */
  readonly tests: readonly TestId[];
}

/**
 * Symptoms that nothing named explains and somebody has yet to look into: by a test that would find the symptom itself,
 * or else by those that look at what shows as it. Once all of these were made, it is told and nothing more.
 * @param posterior - what is known so far
 * @returns each with the tests that are left
 * @example openSymptoms(infer({ axis: defaultAxis("vertical-centre", "X"), reports: [], magnitudes: [] })) // []
 */
export function openSymptoms(posterior: Posterior): readonly OpenSymptom[] {
  const { axis } = posterior.evidence;
  return unexplained(posterior)
    .filter((r) => r.source === "symptom")
    .map((report) => {
      const id = latentOf(report.finding);
      const itself = testsFor(axis, { signs: [id], sizes: id === "lost-motion" ? ["whole-chain"] : [] });
      const behind = posterior.causes.filter((c) => c.shows[id]);
      // What nobody imagines and a test denied comes and goes: then it is its parts that are looked at.
      const all =
        itself.length && !(finding(id).plain && itself.some((t) => wasMade(posterior, t)))
          ? itself
          : behind.flatMap((c) => testsFor(axis, { signs: signsOf(axis, c), sizes: sizesOf(axis, c) }));
      return {
        report,
        tests: [...new Set(all)].filter((t) => !wasMade(posterior, t) && !pointless(posterior.evidence, t)),
      };
    })
    .filter((o) => o.tests.length > 0);
}

/** A test was made where it said something of what it looks for. */
function wasMade({ evidence }: Posterior, id: TestId): boolean {
  const test = LOCATE_TESTS.find((t) => t.id === id);
  const kind = test && magnitudeOfTest(test);
  const findings: readonly FindingId[] = test?.findings ?? [];
  return (
    evidence.reports.some((r) => r.source === "test" && findings.includes(r.finding)) ||
    evidence.magnitudes.some((m) => m.kind === kind)
  );
}

/** Tests on this axis that would find one of these, covers closed and quick ones first. */
function testsFor(
  axis: AxisConfig,
  { signs, sizes }: { readonly signs: readonly FindingId[]; readonly sizes: readonly MagnitudeKind[] },
): readonly TestId[] {
  return LOCATE_TESTS.filter((test) => {
    const kind = magnitudeOfTest(test);
    return (
      availability(axis, test).possible &&
      (findingsOf(axis, test).some((id) => signs.includes(id)) || (kind !== undefined && sizes.includes(kind)))
    );
  })
    .sort((a, b) => Number(opens(a)) - Number(opens(b)) || a.minutes - b.minutes)
    .map((t) => t.id);
}

const opens = (test: LocateTest): boolean => test.opens === true;

/** What covers a chain in which nothing is found: its loss measured, its friction felt or read, its noise heard. */
function uncovered({ evidence }: Posterior): readonly TestId[] {
  const { axis, reports, magnitudes } = evidence;
  const tests: TestId[] = [];
  const measured = new Set(magnitudes.map((m) => m.kind));
  const whole = seenBy(axis, "whole-chain").length > 0;
  // A scale takes up all slack before the table is read: there the control tells it, or the links one by one.
  const compared = !whole && reports.some((r) => r.finding === "scale-gap" && r.source === "test");
  const sizes: readonly MagnitudeKind[] = whole ? ["whole-chain"] : ["end-float", "nut-flank", "coupling-slip"];
  const open = compared ? [] : sizes.filter((kind) => !measured.has(kind));
  if (!whole && open.length) tests.push("motor-against-scale");
  for (const kind of open) tests.push(...testsFor(axis, { signs: [], sizes: [kind] }).slice(0, 1));
  const tested = (group: FindingGroup): boolean =>
    reports.some((r) => r.source === "test" && finding(r.finding).group === group);
  if (!tested("binding")) tests.push(...testsFor(axis, { signs: ["tight-all"], sizes: [] }).slice(0, 1));
  if (!tested("noise") && evidence.sister !== false) tests.push("sound-comparison");
  return tests;
}
