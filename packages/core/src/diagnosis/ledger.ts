import type { AxisConfig } from "../machine/axis";
import { nonNegativeLeastSquares } from "../quantity/nnls";
import { chiSquaredExceeded, formatDeviation, formatWithU, type UnitSystem } from "../quantity";
import { probit } from "simple-statistics";
import type { Magnitude } from "./components";
import type { SlackId } from "./knowledge";
import { seenBy, slacksOf, slackName, windUpIn, windUpMm, type MagnitudeKind } from "./slack";

/** One line of the ledger: links that no test has told apart stand together. */
export interface LedgerLine {
  readonly slacks: readonly SlackId[];
  readonly name: string;
  /** Null for what nobody looked at: then only its bounds are known. */
  readonly shareMm: number | null;
  readonly expandedMm: number | null;
  readonly boundsMm: readonly [number, number];
  /** Which tests speak for it. */
  readonly from: readonly MagnitudeKind[];
  /** Computed from stiffness and friction, not measured. */
  readonly computed: boolean;
}

export interface Ledger {
  readonly lines: readonly LedgerLine[];
  readonly total: {
    readonly reversalValueMm: number;
    readonly expandedMm: number;
  } | null;
  readonly rest: {
    readonly mm: number;
    readonly expandedMm: number;
    readonly significant: boolean;
  } | null;
  /** Consistency of repeated or overlapping tests; null when nothing overlaps. */
  readonly consistency: {
    readonly chiSquared: number;
    readonly dof: number;
    readonly chance: number;
  } | null;
  readonly contradictions: readonly string[];
  /** Which tests they ask to be repeated, the first of them first. */
  readonly repeat: readonly MagnitudeKind[];
}

/** Something that cannot be, in words, and the test that is to be repeated for it. */
interface Contradiction {
  readonly says: string;
  readonly repeat: MagnitudeKind | null;
}

const K = 2;
/** Below this chance the tests are said to contradict each other. */
const CONTRADICT = 0.01;
/** Chance of any contradiction in a ledger whose tests agree, the χ² of repeated tests besides. */
const ALL_TOGETHER = 0.035;

/**
 * Reconciles the sizes found on an axis: shares by weighted least squares, none negative, and the
 * rest that the whole chain shows besides. JCGM 100 for the uncertainties (k = 2).
 * @param axis - configuration
 * @param magnitudes - what was measured, mm
 * @param system - units of the sentences
 * @returns a line for each slack or group of slacks that could be told apart, the total, the rest, and contradictions
 * @example
 * lossLedger(defaultAxis("vertical-centre", "X"), [{ kind: "whole-chain", reversalValueMm: 0.02, uMm: 0.001 }]).total.reversalValueMm
 * // 0.02
 */
export function lossLedger(axis: AxisConfig, magnitudes: readonly Magnitude[], system: UnitSystem = "metric"): Ledger {
  const parts = magnitudes.filter((m) => m.kind !== "whole-chain" && seenBy(axis, m.kind).length > 0);
  const groups = groupsSeen(
    axis,
    parts.map((m) => m.kind),
  );
  const rows = parts.map((m) => groups.map((g) => (seenBy(axis, m.kind).includes(g[0]) ? 1 : 0)));
  const weights = parts.map((m) => 1 / m.uMm ** 2);
  const solved = groups.length
    ? nonNegativeLeastSquares(
        rows,
        parts.map((m) => m.reversalValueMm),
        weights,
      )
    : null;
  const windUp = windUpMm(axis) * (1 - windUpIn(parts.map((m) => m.kind)));
  const uWindUp = 0.35 * windUp + 0.0002;
  const total = wholeChain(axis, magnitudes);
  const looked = groups.flat();
  const lines: LedgerLine[] = groups.map((slacks, i) =>
    seenLine(slacks, {
      name: groupName(axis, slacks),
      shareMm: solved?.solution[i] ?? 0,
      expandedMm: K * Math.sqrt(Math.max(0, solved?.covariance[i][i] ?? 0)),
      kinds: parts.filter((_, r) => rows[r][i]).map((m) => m.kind),
    }),
  );
  lines.push(windUpLine(windUp, K * uWindUp));
  const sum = lines.reduce((s, l) => s + (l.shareMm ?? 0), 0);
  const uSum = Math.sqrt(sumOfCovariance(solved?.covariance ?? []) + uWindUp ** 2);
  const rest = total ? restOf(total.reversalValueMm - sum, Math.hypot(total.u, uSum)) : null;
  const room = total ? Math.max(0, total.reversalValueMm - sum + K * Math.hypot(total.u, uSum)) : Infinity;
  for (const slack of slacksOf(axis)) {
    if (looked.includes(slack) || slack === "windup" || slack === "entered" || slack === "wear") continue;
    lines.push(unseenLine(slack, { name: slackName(axis, slack), room }));
  }
  const order = slacksOf(axis);
  lines.sort((a, b) => order.indexOf(a.slacks[0]) - order.indexOf(b.slacks[0]));
  const dof = parts.length - groups.length;
  const consistency =
    solved && dof > 0
      ? { chiSquared: solved.chiSquared, dof, chance: chiSquaredExceeded(solved.chiSquared, dof) }
      : null;
  const contradictions = contradictionsIn(parts, lines, { total, rest, consistency, system });
  return {
    lines,
    rest,
    consistency,
    total: total ? { reversalValueMm: total.reversalValueMm, expandedMm: K * total.u } : null,
    contradictions: contradictions.map((c) => c.says),
    repeat: contradictions.flatMap((c) => c.repeat ?? []),
  };
}

/** Slacks of which tests found a size. */
function seenLine(
  slacks: readonly SlackId[],
  {
    name,
    shareMm,
    expandedMm,
    kinds,
  }: {
    readonly name: string;
    readonly shareMm: number;
    readonly expandedMm: number;
    readonly kinds: readonly MagnitudeKind[];
  },
): LedgerLine {
  const boundsMm = [Math.max(0, shareMm - expandedMm), shareMm + expandedMm] as const;
  const from = [...new Set(kinds)];
  return { slacks, name, shareMm, expandedMm, boundsMm, from, computed: false };
}

/** What the drive gives way by itself: reckoned, not measured. */
function windUpLine(shareMm: number, expandedMm: number): LedgerLine {
  const boundsMm = [shareMm / 2, shareMm * 1.7] as const;
  return { slacks: ["windup"], name: "Wind-up", shareMm, expandedMm, boundsMm, from: [], computed: true };
}

/** A slack that no test looked at: at most what the whole leaves room for. */
function unseenLine(slack: SlackId, { name, room }: { readonly name: string; readonly room: number }): LedgerLine {
  return {
    slacks: [slack],
    name,
    shareMm: null,
    expandedMm: null,
    boundsMm: [0, room],
    from: [],
    computed: false,
  };
}

/** Slacks that the same tests see stand together. */
function groupsSeen(axis: AxisConfig, kinds: readonly MagnitudeKind[]): SlackId[][] {
  const groups = new Map<string, SlackId[]>();
  for (const slack of slacksOf(axis)) {
    const key = [...new Set(kinds)].map((k) => (seenBy(axis, k).includes(slack) ? 1 : 0)).join("");
    if (!key.includes("1")) continue;
    groups.set(key, [...(groups.get(key) ?? []), slack]);
  }
  return [...groups.values()];
}

/** What a lever on the member sees move past it, besides the nut. */
const BESIDE_THE_NUT: Partial<Record<SlackId, string>> = { bearings: "its bearings", bracket: "bracket" };

function groupName(axis: AxisConfig, slacks: readonly SlackId[]): string {
  if (slacks.includes("bearings") && slacks.includes("housing")) return "End bearings and housing";
  // Wear of the screw is met with the nut, and no size tells the two apart.
  if (slacks.includes("nut"))
    return [slackName(axis, "nut"), ...slacks.flatMap((s) => BESIDE_THE_NUT[s] ?? [])].join(" and ");
  return slacks.map((s) => slackName(axis, s)).join(" and ");
}

/** Two whole-chain tests differ by more than their U: they are not of one state of the axis. */
interface Differing {
  readonly earlier: Magnitude;
  readonly later: Magnitude;
}

interface Whole {
  readonly reversalValueMm: number;
  readonly u: number;
  readonly differing: Differing | null;
}

/** Mean of the whole-chain tests where they agree; where they do not, the later ones alone. */
function wholeChain(axis: AxisConfig, magnitudes: readonly Magnitude[]): Whole | null {
  if (seenBy(axis, "whole-chain").length === 0) return null;
  const found = magnitudes.filter((m) => m.kind === "whole-chain");
  const later = found.at(-1);
  if (!later) return null;
  const agrees = (m: Magnitude): boolean =>
    Math.abs(m.reversalValueMm - later.reversalValueMm) <= K * Math.hypot(m.uMm, later.uMm);
  const earlier = found.findLast((m) => !agrees(m)) ?? null;
  const used = found.filter(agrees);
  const weight = used.reduce((s, m) => s + 1 / m.uMm ** 2, 0);
  const reversalValueMm = used.reduce((s, m) => s + m.reversalValueMm / m.uMm ** 2, 0) / weight;
  return {
    reversalValueMm,
    u: Math.sqrt(1 / weight),
    differing: earlier && { earlier, later },
  };
}

function restOf(mm: number, u: number): NonNullable<Ledger["rest"]> {
  return { mm, expandedMm: K * u, significant: Math.abs(mm) > K * u };
}

function sumOfCovariance(covariance: readonly (readonly number[])[]): number {
  return covariance.flat().reduce((s, v) => s + v, 0);
}

/** The tests as they are called in a sentence. */
export const TEST_NAMES: Record<MagnitudeKind, string> = {
  "whole-chain": "whole-chain test",
  "end-float": "end float",
  "nut-flank": "nut flank",
  "coupling-slip": "coupling slip",
  "housing-shift": "housing shift",
  "bracket-shift": "bracket shift",
};

/**
 * What cannot be together, in words. Each comparison is held to a share of 5 %, so that tests that
 * agree are called contradictory in at most 5 % of ledgers (Bonferroni; coverage bench).
 */
function contradictionsIn(
  parts: readonly Magnitude[],
  lines: readonly LedgerLine[],
  { total, rest, consistency, system }: ContradictionContext,
): Contradiction[] {
  const said: Contradiction[] = [];
  const size = (mm: number): string => formatDeviation(mm, { system });
  const withU = (m: Magnitude): string => formatWithU(m.reversalValueMm, K * m.uMm, { system });
  // Each part against the whole and against zero, the rest both ways, housing, repeated tests.
  const z = probit(1 - ALL_TOGETHER / (2 * parts.length + 4));
  // The likeliest slip first: where it is made, nothing else is said of the same reading.
  const outside = housingOutside(parts, z);
  if (outside)
    said.push({
      says: "The housing moves more than the screw end that it holds: the end float was probably read against the housing, not the casting. Repeat the end float.",
      repeat: "end-float",
    });
  for (const m of parts)
    if (m.reversalValueMm < -z * m.uMm)
      said.push({
        says: `The ${TEST_NAMES[m.kind]} reads ${withU(m)}: a part cannot gain. Its needle counts the other way, or something moved; turn its sense or repeat it. It was taken as nothing.`,
        repeat: m.kind,
      });
  if (total)
    said.push(...againstTotal(outside ? parts.filter((m) => m !== outside) : parts, lines, { total, rest, z, size }));
  if (total?.differing) {
    const { earlier, later } = total.differing;
    said.push({
      says: `Two whole-chain tests differ by more than their U, ${withU(earlier)} and ${withU(later)}: the axis has changed between them, or one was read wrongly. The later one is used, not their mean.`,
      repeat: "whole-chain",
    });
  }
  if (!outside && consistency && consistency.chance < CONTRADICT)
    said.push({
      says: `Tests of the same link disagree (χ² ${consistency.chiSquared.toFixed(1)} on ${consistency.dof}, chance ${(100 * consistency.chance).toFixed(1)} %): repeat the one with the fewest runs.`,
      repeat: null,
    });
  return said;
}

/** The housing’s shift where it is more than the end float, which has it in it. */
function housingOutside(parts: readonly Magnitude[], z: number): Magnitude | null {
  const housing = parts.find((m) => m.kind === "housing-shift");
  const float = parts.find((m) => m.kind === "end-float");
  if (!housing || !float) return null;
  const more = housing.reversalValueMm - float.reversalValueMm;
  return more > z * Math.hypot(housing.uMm, float.uMm) ? housing : null;
}

interface ContradictionContext {
  readonly total: Whole | null;
  readonly rest: Ledger["rest"];
  readonly consistency: Ledger["consistency"];
  readonly system: UnitSystem;
}

/** One link more than the whole, all links more than the whole, or less although all were looked at. */
function againstTotal(
  parts: readonly Magnitude[],
  lines: readonly LedgerLine[],
  c: {
    readonly total: Whole;
    readonly rest: Ledger["rest"];
    readonly z: number;
    readonly size: (mm: number) => string;
  },
): Contradiction[] {
  const { total, rest, z, size } = c;
  const more = parts.filter((m) => m.reversalValueMm - total.reversalValueMm > z * Math.hypot(m.uMm, total.u));
  if (more.length > 0)
    return more.map((m) => ({
      says: `The ${TEST_NAMES[m.kind]} alone, ${size(m.reversalValueMm)}, is more than the whole, ${size(total.reversalValueMm)}: one of the two was read wrongly, or something moved between them. Repeat the ${TEST_NAMES[m.kind]} first.`,
      repeat: m.kind,
    }));
  if (!rest) return [];
  const beyond = Math.abs(rest.mm) > (z / K) * rest.expandedMm;
  if (beyond && rest.mm < 0)
    return [
      {
        says: `The links together lose ${size(-rest.mm)} more than the whole chain: a compensation entered in the control would do that, or one reading is wrong. Look at the entered compensation first.`,
        repeat: null,
      },
    ];
  const all = lines.every((l) => l.shareMm !== null);
  return beyond && all
    ? [
        {
          says: `${size(rest.mm)} are lost where no test has looked, though every link was: repeat the whole-chain test at the same place.`,
          repeat: "whole-chain",
        },
      ]
    : [];
}
