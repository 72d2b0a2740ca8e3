import { coverageFactor, inQuadrature, mean } from "../../quantity";
import { scatterOfGroups } from "../../measure/reversal";
import { brokenLine, onBrokenLine, type LinePoint } from "./broken-line";
import { checkCorrectionRules, correctionAt, pointAt, type Correction, type CorrectionRules } from "./correction";
import { clearRipple, leadRipple, type LeadRipple } from "./lead-ripple";
import { bareTargets, growthWhileRead, lengthU, type BareTarget, type ProfileBasis } from "./profile-basis";

/** A point of a table with what it is worth. Lengths mm. */
export interface CorrectionPoint {
  readonly atMm: number;
  /** What is added there from below, and from above; equal with one table. */
  readonly upMm: number;
  readonly downMm: number;
  /** Expanded uncertainty of the whole correction from the reference point to here. */
  readonly uMm: number;
  /** Read on both sides of it, or held from the last place that was read. */
  readonly held: boolean;
}

/** What goes against a table, or is to be known of it. */
export type CorrectionNote =
  | { readonly code: "too-large"; readonly atMm: number; readonly valueMm: number; readonly mostMm: number }
  | { readonly code: "too-steep"; readonly atMm: number; readonly changeMm: number; readonly mostMm: number }
  /** Nowhere larger than its own ±: what would be typed is not known to be there. */
  | { readonly code: "nothing-proven"; readonly largestMm: number; readonly uMm: number }
  | { readonly code: "held"; readonly fromMm: number; readonly toMm: number; readonly points: number }
  | { readonly code: "grew"; readonly perMMm: number; readonly uPerMMm: number }
  | { readonly code: "ripple-stays"; readonly amplitudeMm: number; readonly uMm: number }
  | { readonly code: "ripple-hidden" }
  | { readonly code: "ripple-fakes"; readonly waveMm: number }
  | { readonly code: "far-reference"; readonly nearestMm: number }
  | { readonly code: "one-way"; readonly reversalMm: number };

export interface MadeCorrection {
  readonly table: Correction;
  readonly points: readonly CorrectionPoint[];
  readonly ripple: LeadRipple;
  readonly notes: readonly CorrectionNote[];
}

/** Steps finer than this part of a turn follow what comes back with each turn. */
const FOLLOWS_TURN = 0.3;

interface Curve {
  at(mm: number): number;
}

/** What was read along the travel, without what comes back each turn. */
function slowCurve(
  read: readonly LinePoint[],
  {
    rules,
    ripple,
    perTurnMm,
  }: { readonly rules: CorrectionRules; readonly ripple: LeadRipple; readonly perTurnMm: number },
): Curve {
  const taken = rules.stepMm > FOLLOWS_TURN * perTurnMm ? clearRipple(ripple) : null;
  const turn = (mm: number): number => (2 * Math.PI * mm) / perTurnMm;
  const slow = read.map(({ atMm, valueMm }) => ({
    atMm,
    valueMm: taken ? valueMm - taken.sin * Math.sin(turn(atMm)) - taken.cos * Math.cos(turn(atMm)) : valueMm,
  }));
  const values = brokenLine(slow, rules);
  return { at: (mm) => onBrokenLine(values, rules, mm) };
}

/** The places a table may be made for: what was read, and about one step beyond. */
function reachOf(targets: readonly BareTarget[], stepMm: number): readonly [number, number] {
  const places = targets.map((t) => t.positionMm);
  const beyond = 1.1 * stepMm;
  return [Math.min(...places) - beyond, Math.max(...places) + beyond];
}

/** A table and what it was worked out by, without what it is worth. */
export interface BareCorrection {
  readonly table: Correction;
  readonly ripple: LeadRipple;
  readonly bare: readonly BareTarget[];
  /** Nearest place that a value may be told for, and whether that is the place itself. */
  readonly within: (mm: number) => number;
}

/**
 * A table alone, as {@link makeCorrection} makes it, for those that make many of them.
 * @param basis - readings and what is known of them
 * @param options - `rules`: of the control; `perTurnMm`: travel for a turn of the screw
 * @returns the table and what it was worked out by
 * @throws BoundError where fewer than two places were read
 * @example
 * const warmth = { carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 11.5, uK: 0 };
 * const targets = [10, 490].map((positionMm) => ({ positionMm, up: [positionMm / 1e4], down: [positionMm / 1e4] }));
 * const basis = { targets, warmth, laser: null, referenceUPerM: 0, old: null, referenceMm: 0 };
 * correctionOf(basis, { rules: usualCorrectionRules(500), perTurnMm: 10 }).table.up[20] // -50
 */
export function correctionOf(
  basis: ProfileBasis,
  { rules, perTurnMm }: { readonly rules: CorrectionRules; readonly perTurnMm: number },
): BareCorrection {
  const bare = bareTargets(basis);
  const read = (of: (t: BareTarget) => number): LinePoint[] =>
    bare.map((t) => ({ atMm: t.positionMm, valueMm: of(t) }));
  const both = (t: BareTarget): number => (t.meanUp + t.meanDown) / 2;
  const ripple = leadRipple(read(both), perTurnMm);
  const curve = (of: (t: BareTarget) => number): Curve => slowCurve(read(of), { rules, ripple, perTurnMm });
  const one = curve(both);
  const [up, down] = rules.ways === "one" ? [one, one] : [curve((t) => t.meanUp), curve((t) => t.meanDown)];
  const [low, high] = reachOf(bare, rules.stepMm);
  const within = (mm: number): number => Math.min(Math.max(mm, low), high);
  const zero = up.at(within(rules.referenceMm));
  const values = (c: Curve): readonly number[] =>
    Array.from(
      { length: rules.points },
      (_, i) => Math.round((zero - c.at(within(pointAt(rules, i)))) / rules.incrementMm) + 0,
    );
  const table = { rules, up: values(up), down: rules.ways === "two" ? values(down) : null };
  return { table, ripple, bare, within };
}

/**
 * A table from what was read against the reference: the smoothest broken line through the deviations at 20 °C, turned
 * round, nothing at the reference point, in whole increments of the control. Rounded are the values from the reference
 * point, never the steps: so rounding does not add up.
 * @param basis - readings and what is known of them
 * @param options - `rules`: of the control; `perTurnMm`: travel for a turn of the screw; `travelMm`: of the axis
 * @returns the table, its points with U, and what is to be known of it
 * @throws BoundError where the rules do not fit the axis, or fewer than two places were read
 * @example
 * const warmth = { carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 11.5, uK: 0 };
 * const targets = [10, 490].map((positionMm) => ({ positionMm, up: [positionMm / 1e4], down: [positionMm / 1e4] }));
 * makeCorrection(
 *   { targets, warmth, laser: null, referenceUPerM: 0, old: null, referenceMm: 0 },
 *   { rules: usualCorrectionRules(500), perTurnMm: 10, travelMm: 500 },
 * ).table.up[20] // -50
 */
export function makeCorrection(
  basis: ProfileBasis,
  options: { readonly rules: CorrectionRules; readonly perTurnMm: number; readonly travelMm: number },
): MadeCorrection {
  const { rules, perTurnMm, travelMm } = options;
  checkCorrectionRules(rules, travelMm);
  const { table, ripple, bare, within } = correctionOf(basis, options);
  const scatterU = scatterAt(basis, { rules, within });
  const points = Array.from({ length: rules.points }, (_, i): CorrectionPoint => {
    const atMm = pointAt(rules, i);
    return {
      atMm,
      upMm: correctionAt(table, atMm, "+"),
      downMm: correctionAt(table, atMm, "-"),
      uMm: inQuadrature(scatterU(atMm), rippleU(ripple), lengthU(basis, atMm), rules.incrementMm / Math.sqrt(3)),
      held: Math.abs(within(atMm) - atMm) > 1e-9,
    };
  });
  return { table, points, ripple, notes: notesOf({ basis, bare, table, points, ripple, perTurnMm }) };
}

/**
 * Expanded uncertainty that the scatter of the runs leaves in a value from the reference point, mm: how much each reading
 * bears on it, by laying the line through one reading at a time.
 */
function scatterAt(
  { targets }: ProfileBasis,
  { rules, within }: { readonly rules: CorrectionRules; readonly within: (mm: number) => number },
): (mm: number) => number {
  const scatter = scatterOfGroups(targets.flatMap((t) => [t.up, t.down])).of;
  const lines = targets.map((own) =>
    brokenLine(
      targets.map((t) => ({ atMm: t.positionMm, valueMm: t === own ? 1 : 0 })),
      rules,
    ),
  );
  const [{ dof }] = scatter;
  const k = coverageFactor(Math.max(1, Math.min(dof, 1e9)));
  const ofMean = targets.map((t, i) => {
    const [up, down] = [scatter[2 * i].s / Math.sqrt(t.up.length), scatter[2 * i + 1].s / Math.sqrt(t.down.length)];
    // One table takes the mean of both; two tables have one each.
    return rules.ways === "one" ? Math.hypot(up, down) / 2 : Math.max(up, down);
  });
  const zero = within(rules.referenceMm);
  return (mm) =>
    k *
    inQuadrature(
      ...lines.map((line, i) => (onBrokenLine(line, rules, within(mm)) - onBrokenLine(line, rules, zero)) * ofMean[i]),
    );
}

/** What the error of each turn leaves in a value, mm: what is not known of it, or all of it where it was not taken out. */
function rippleU(ripple: LeadRipple): number {
  const clear = clearRipple(ripple);
  if (clear) return clear.uMm;
  return ripple.code === "told" ? inQuadrature(ripple.amplitudeMm, ripple.uMm) : 0;
}

/** Among many points one is beyond its ± by chance (common practice, no source). */
const AMONG_MANY = 1.5;

interface Noted {
  readonly basis: ProfileBasis;
  readonly bare: readonly BareTarget[];
  readonly table: Correction;
  readonly points: readonly CorrectionPoint[];
  readonly ripple: LeadRipple;
  readonly perTurnMm: number;
}

function notesOf({ basis, bare, table, points, ripple, perTurnMm }: Noted): readonly CorrectionNote[] {
  const { rules } = table;
  const notes: CorrectionNote[] = [...bounds(table)];
  const sizes = points.map((p) => ({ p, size: Math.max(Math.abs(p.upMm), Math.abs(p.downMm)) }));
  if (sizes.every(({ p, size }) => size <= AMONG_MANY * p.uMm)) {
    const largest = sizes.reduce((a, b) => (b.size > a.size ? b : a));
    notes.push({ code: "nothing-proven", largestMm: largest.size, uMm: largest.p.uMm });
  }
  const beyond = points.filter((p) => p.held);
  const places = bare.map((t) => t.positionMm);
  if (beyond.length > 0)
    notes.push({ code: "held", fromMm: Math.min(...places), toMm: Math.max(...places), points: beyond.length });
  const nearest = Math.min(...places.map((p) => Math.abs(p - rules.referenceMm)));
  if (nearest > 2 * rules.stepMm) notes.push({ code: "far-reference", nearestMm: nearest });
  const grew = growthWhileRead(basis.targets);
  // Beyond chance, and enough to matter: 99 % and 2 µm over a metre.
  if (grew && Math.abs(grew.perMMm) > 1.3 * grew.uPerMMm && Math.abs(grew.perMMm) > 0.002)
    notes.push({ code: "grew", ...grew });
  if (ripple.code === "hidden") notes.push({ code: "ripple-hidden" });
  if (ripple.code === "fakes-slow") notes.push({ code: "ripple-fakes", waveMm: ripple.waveMm });
  const clear = clearRipple(ripple);
  if (clear && rules.stepMm > FOLLOWS_TURN * perTurnMm)
    notes.push({ code: "ripple-stays", amplitudeMm: clear.amplitudeMm, uMm: clear.uMm });
  if (rules.ways === "one") notes.push({ code: "one-way", reversalMm: mean(bare.map((t) => t.meanDown - t.meanUp)) });
  return notes;
}

/** What the control would not take. */
function bounds({ rules, up, down }: Correction): readonly CorrectionNote[] {
  const notes: CorrectionNote[] = [];
  for (const values of down ? [up, down] : [up]) {
    const at = values.findIndex((v) => Math.abs(v) * rules.incrementMm > rules.largestMm + 1e-9);
    if (at >= 0)
      notes.push({
        code: "too-large",
        atMm: pointAt(rules, at),
        valueMm: values[at] * rules.incrementMm,
        mostMm: rules.largestMm,
      });
    const steep = values.findIndex(
      (v, i) => i > 0 && Math.abs(v - values[i - 1]) * rules.incrementMm > rules.steepestMm + 1e-9,
    );
    if (steep >= 0)
      notes.push({
        code: "too-steep",
        atMm: pointAt(rules, steep),
        changeMm: (values[steep] - values[steep - 1]) * rules.incrementMm,
        mostMm: rules.steepestMm,
      });
  }
  return notes;
}
