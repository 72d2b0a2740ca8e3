import { chiSquaredExceeded, coverageFactor, mean } from "../../quantity";
import { scatterOfGroups } from "../../measure/reversal";
import { correctionAt, type Correction } from "./correction";
import { bareTargets, lengthU, type ProfileBasis } from "./profile-basis";

/** How a table may stand in a control other than as it should. */
export const ENTERED_AS = [
  "as-made",
  "not-active",
  "wrong-sign",
  "counted-from-other-end",
  "a-step-low",
  "a-step-high",
  "ten-times",
  "tenth",
  "old-kept",
] as const;
export type EnteredAs = (typeof ENTERED_AS)[number];

export interface ComparedPrediction {
  /** What fits the readings best. */
  readonly as: EnteredAs;
  /** It fits clearly better than the others; what is said is not more than this. */
  readonly sure: boolean;
  /** Places where the readings lie away from what was predicted by more than U of both. */
  readonly off: readonly { readonly positionMm: number; readonly byMm: number; readonly uMm: number }[];
  /** Root mean square of what is left, without a common shift, mm. */
  readonly restMm: number;
}

/** Chance below which readings do not belong to a prediction. */
const UNLIKELY = 0.01;
/** What an axis may change by from one set-up to the next, mm (common practice, no source). */
const ANOTHER_DAY_MM = 0.001;

type Shifted = (atMm: number) => number;

/** What each way of entering would add to the command, mean of both directions. */
function candidates(table: Correction, old: Correction | null): Readonly<Record<EnteredAs, Shifted>> {
  const of = (t: Correction, mm: number): number => (correctionAt(t, mm, "+") + correctionAt(t, mm, "-")) / 2;
  const { rules } = table;
  const reversed: Correction = {
    rules,
    up: [...table.up].reverse(),
    down: table.down ? [...table.down].reverse() : null,
  };
  const was: Shifted = (mm) => (old ? of(old, mm) : 0);
  return {
    "as-made": (mm) => of(table, mm),
    "not-active": was,
    "wrong-sign": (mm) => -of(table, mm),
    "counted-from-other-end": (mm) => of(reversed, mm),
    "a-step-low": (mm) => of(table, mm + rules.stepMm),
    "a-step-high": (mm) => of(table, mm - rules.stepMm),
    "ten-times": (mm) => 10 * of(table, mm),
    tenth: (mm) => of(table, mm) / 10,
    "old-kept": (mm) => of(table, mm) + was(mm),
  };
}

/**
 * Readings taken with a new table against what it promised; and where they differ, which slip of the typing would make
 * them look so.
 * @param before - what the table was made from
 * @param table - as it should stand in the control
 * @param after - readings with it; its `old` is not looked at
 * @returns what fits best, and where it is off
 * @example
 * const warmth = { carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 11.5, uK: 0 };
 * const read = (e) => [50, 250, 450].map((positionMm) => ({ positionMm, up: [e * positionMm], down: [e * positionMm] }));
 * const basis = (e) => ({ targets: read(e), warmth, laser: null, referenceUPerM: 0, old: null, referenceMm: 0 });
 * const made = { rules: usualCorrectionRules(500), perTurnMm: 10, travelMm: 500 };
 * comparePrediction(basis(1e-4), makeCorrection(basis(1e-4), made).table, basis(2e-4)).as // 'wrong-sign'
 */
export function comparePrediction(before: ProfileBasis, table: Correction, after: ProfileBasis): ComparedPrediction {
  const machine = bareTargets(before).map((t) => ({ atMm: t.positionMm, mm: (t.meanUp + t.meanDown) / 2 }));
  const read = bareTargets({ ...after, old: null });
  const u = meanU(before) ** 2 + meanU(after) ** 2 + ANOTHER_DAY_MM ** 2;
  const places = read.map((t) => {
    const mm = (t.meanUp + t.meanDown) / 2;
    const length = (lengthU(before, t.positionMm) ** 2 + lengthU(after, t.positionMm) ** 2) / 4;
    return { atMm: t.positionMm, mm, was: lineThrough(machine, t.positionMm), variance: u + length };
  });
  const fits = Object.entries(candidates(table, before.old)).map(([as, adds]) => {
    const left = centred(places.map((p) => ({ ...p, mm: p.mm - p.was - adds(p.atMm) })));
    return { as: as as EnteredAs, left, chi: left.reduce((sum, p) => sum + p.mm ** 2 / p.variance, 0) };
  });
  const dof = Math.max(1, places.length - 1);
  const [made] = fits;
  const best = fits.reduce((a, b) => (b.chi < a.chi - 1e-9 ? b : a));
  // As it was made, as long as that is not unlikely.
  const chosen = chiSquaredExceeded(made.chi, dof) > UNLIKELY ? made : best;
  const others = fits.filter((f) => f !== chosen && Math.abs(f.chi - chosen.chi) < 6);
  const off = made.left.flatMap((p) => {
    const uMm = 2 * Math.sqrt(p.variance);
    return Math.abs(p.mm) > 1.5 * uMm ? [{ positionMm: p.atMm, byMm: p.mm, uMm }] : [];
  });
  return {
    as: chosen.as,
    sure: others.length === 0 && chiSquaredExceeded(chosen.chi, dof) > UNLIKELY,
    off,
    restMm: Math.sqrt(mean(made.left.map((p) => p.mm ** 2))),
  };
}

/** Without the shift common to all: the display may be set to zero anywhere. */
function centred<T extends { readonly mm: number; readonly variance: number }>(places: readonly T[]): readonly T[] {
  const weight = places.reduce((sum, p) => sum + 1 / p.variance, 0);
  const shift = places.reduce((sum, p) => sum + p.mm / p.variance, 0) / weight;
  return places.map((p) => ({ ...p, mm: p.mm - shift }));
}

/** Standard uncertainty of the mean of both directions at a place, mm. */
function meanU({ targets }: ProfileBasis): number {
  const groups = targets.flatMap((t) => [t.up, t.down]);
  const [{ s, dof }] = scatterOfGroups(groups).of;
  const runs = Math.min(...groups.map((g) => g.length));
  return ((coverageFactor(Math.max(1, Math.min(dof, 1e9))) / 2) * s) / Math.sqrt(2 * runs);
}

function lineThrough(places: readonly { readonly atMm: number; readonly mm: number }[], atMm: number): number {
  const next = places.findIndex((p) => p.atMm >= atMm);
  const i = Math.min(Math.max(next < 0 ? places.length - 1 : next, 1), places.length - 1);
  const [a, b] = [places[i - 1], places[i]];
  return a.mm + ((atMm - a.atMm) / (b.atMm - a.atMm)) * (b.mm - a.mm);
}
