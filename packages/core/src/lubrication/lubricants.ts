import { BoundError, coverageFactor, rectangular, requireBound } from "../quantity";
import { THICKENERS, THICKENERS_MIX, type Thickener } from "./thickeners.table";

export const BASE_OILS = ["mineral", "PAO", "ester", "PAG", "silicone", "PFPE"] as const;
export type BaseOil = (typeof BASE_OILS)[number];
export const LUBRICANT_KINDS = ["oil", "grease", "none"] as const;

export interface Lubricant {
  readonly name: string;
  readonly kind: (typeof LUBRICANT_KINDS)[number];
  /** Grease only; null where nobody knows. */
  readonly thickener: Thickener | null;
  readonly base: BaseOil | null;
  /** NLGI consistency of a grease, 0 to 6. */
  readonly nlgi: number | null;
  /** ISO VG of an oil, mm²/s at 40 °C. */
  readonly viscosity: number | null;
}

export type Mixing = "same" | "compatible" | "borderline" | "incompatible" | "unknown";

/**
 * May two thickeners meet?
 * @param a - one thickener
 * @param b - the other
 * @returns how they mix
 * @example thickenersMix("lithium", "clay") // 'incompatible'
 */
export function thickenersMix(a: Thickener, b: Thickener): Mixing {
  const [i, j] = [THICKENERS.indexOf(a), THICKENERS.indexOf(b)].sort((x, y) => x - y);
  if (i === j) return "same";
  const code = THICKENERS_MIX[THICKENERS[i]].split(/\s+/)[j];
  return code === "C" ? "compatible" : code === "B" ? "borderline" : "incompatible";
}

/**
 * Base oils that mix: mineral, PAO and ester with one another; the rest only with their own kind (from memory).
 * @param a - one base oil
 * @param b - the other
 * @returns how they mix
 * @example basesMix("mineral", "ester") // 'compatible'
 */
export function basesMix(a: BaseOil, b: BaseOil): Mixing {
  if (a === b) return "same";
  const mixing: readonly BaseOil[] = ["mineral", "PAO", "ester"];
  return mixing.includes(a) && mixing.includes(b) ? "compatible" : "incompatible";
}

export interface MixingAdvice {
  readonly mixing: Mixing;
  readonly says: string;
  /** What a changeover needs; empty where they may meet. */
  readonly changeover: readonly string[];
}

const RANK: readonly Mixing[] = ["same", "compatible", "borderline", "unknown", "incompatible"];

/**
 * May the new lubricant go where the old one is, and what does a changeover need?
 * @param old - the lubricant that is in there
 * @param next - the one to go in
 * @returns how they mix, and what is done
 * @example mixingAdvice({ id: 1, name: "blue", kind: "grease", thickener: "lithium", base: "mineral" } , { id: 2, name: "white", kind: "grease", thickener: "clay", base: "mineral" } ).mixing // 'incompatible'
 */
export function mixingAdvice(old: Lubricant, next: Lubricant): MixingAdvice {
  if (old.name === next.name) return { mixing: "same", says: "The same lubricant.", changeover: [] };
  if (old.kind !== next.kind)
    return {
      mixing: "incompatible",
      says: `${next.name} is ${next.kind === "none" ? "no lubricant" : `${next.kind === "oil" ? "an oil" : "a grease"}`}; this place has ${old.kind === "oil" ? "an oil" : "a grease"}.`,
      changeover: ["Ask the maker first: lines, dosers and seals are made for the one or the other."],
    };
  const thick: Mixing =
    old.kind === "oil"
      ? "same"
      : old.thickener && next.thickener
        ? thickenersMix(old.thickener, next.thickener)
        : "unknown";
  const base: Mixing = old.base && next.base ? basesMix(old.base, next.base) : "unknown";
  const mixing = RANK[Math.max(RANK.indexOf(thick), RANK.indexOf(base))];
  const what = [
    old.kind === "grease"
      ? `thickeners ${old.thickener ?? "unknown"} and ${next.thickener ?? "unknown"}: ${thick}`
      : "",
    `base oils ${old.base ?? "unknown"} and ${next.base ?? "unknown"}: ${base}`,
  ].filter(Boolean);
  const notes: string[] = [];
  if (old.nlgi !== null && next.nlgi !== null && old.nlgi !== next.nlgi)
    notes.push(`NLGI ${old.nlgi} against ${next.nlgi}: the line and doser may not pass it.`);
  if (
    old.viscosity !== null &&
    next.viscosity !== null &&
    Math.abs(Math.log(old.viscosity / next.viscosity)) > Math.log(1.6)
  )
    notes.push(`ISO VG ${old.viscosity} against ${next.viscosity}: another film, another leak.`);
  const clean =
    old.kind === "grease"
      ? [
          "Purge with the new one till only the new comes out, the axis moving.",
          "Again after a week, and look for bleeding or hardening.",
          "Better: take it apart, wash, dry, fill afresh.",
        ]
      : [
          "Drain, clean the reservoir and strainer, flush the lines to the farthest outlet.",
          "Look again after a week: sludge or foam means it was not clean.",
        ];
  return {
    mixing,
    says: [`${what.join("; ")}.`.replace(/^./, (c) => c.toUpperCase()), ...notes].join(" "),
    changeover: mixing === "same" || mixing === "compatible" ? [] : clean,
  };
}

export interface GunCalibration {
  /** Mean of one stroke, g, and its expanded uncertainty, about 95 %. */
  readonly gramsPerStroke: number;
  readonly expandedGrams: number;
}

/** One or two weighings: a tenth is what guns commonly vary by (common practice, no source). */
const USUAL_SCATTER = 0.1;
/** Two that happen to agree on the scale’s step would tell of no scatter at all. */
const FEWEST = 3;
/** Step of a kitchen or letter scale, g (common practice, no source). */
const SCALE_STEP_G = 0.1;

/**
 * What a stroke of a gun gives, from weighings of some strokes each (ten are usual). U is the scatter of
 * the weighings on Student’s t (of fewer than three a usual one), and the step of the scale; it is bounded at a half: more than that no
 * gun that works is off.
 * @param weighings - strokes of each weighing, and the grams that came out
 * @returns grams a stroke with U
 * @throws BoundError for a weighing that cannot be
 * @example calibrateGun([{ strokes: 10, grams: 8 }, { strokes: 10, grams: 8 }]).gramsPerStroke // 0.8
 */
export function calibrateGun(
  weighings: readonly { readonly strokes: number; readonly grams: number }[],
): GunCalibration {
  requireBound({ "number of weighings": weighings.length }, weighings.length >= 1, "at least 1");
  for (const { strokes, grams } of weighings) {
    requireBound(
      { strokes },
      Number.isInteger(strokes) && strokes >= 1 && strokes <= 200,
      "a whole number from 1 to 200",
    );
    requireBound({ grams }, grams > 0 && grams / strokes <= 20, "above 0 and up to 20 g a stroke");
  }
  const each = weighings.map((w) => w.grams / w.strokes);
  const mean = each.reduce((a, b) => a + b, 0) / each.length;
  const squares = each.reduce((s, x) => s + (x - mean) ** 2, 0);
  const n = each.length;
  const scatter =
    n >= FEWEST ? coverageFactor(n - 1) * Math.sqrt(squares / (n - 1) / n) : (2 * USUAL_SCATTER * mean) / Math.sqrt(n);
  const steps = weighings.map((w) => rectangular(SCALE_STEP_G) / w.strokes);
  const scale = (2 * Math.sqrt(steps.reduce((s, u) => s + u * u, 0))) / n;
  return {
    gramsPerStroke: mean,
    expandedGrams: Math.min(Math.hypot(scatter, scale), mean / 2),
  };
}

/** A drop of oil, g (20 drops to the millilitre at 0.87 g: from memory). */
const DROP_G = 0.044;
/** What a wiped film takes, g (common practice, no source). */
const WIPE_G = 1.5;

/**
 * Grams of a dose.
 * @param dose - amount in `unit`
 * @param unit - what it is counted in
 * @param gramsPerStroke - what the gun gives, g
 * @returns grams
 * @example doseGrams(2, "strokes", 0.8) // 1.6
 */
export function doseGrams(dose: number, unit: "strokes" | "grams" | "drops" | "wipe", gramsPerStroke: number): number {
  if (unit === "grams") return dose;
  if (unit === "strokes") return dose * gramsPerStroke;
  return dose * (unit === "drops" ? DROP_G : WIPE_G);
}

/**
 * Strokes that give at least so many grams.
 * @param grams - at least so many
 * @param gun - what the gun gives
 * @returns whole strokes
 * @example strokesFor(2, calibrateGun([{ strokes: 10, grams: 8 }, { strokes: 10, grams: 8 }])) // 3
 */
export function strokesFor(grams: number, gun: GunCalibration): number {
  if (gun.gramsPerStroke <= 0) throw new BoundError("grams per stroke", gun.gramsPerStroke, "above 0");
  return Math.ceil(grams / gun.gramsPerStroke - 1e-9);
}

export interface StockForecast {
  readonly gramsPerDay: number;
  /** Days until it is used up; null while nothing uses it. */
  readonly daysLeft: number | null;
  /** Order by this many days from now so that it arrives before the reserve is touched; null as above. */
  readonly orderInDays: number | null;
}

/**
 * When a lubricant runs out and when to order it.
 * @param options - `stockG`: what is there, g; `uses`: grams of each point and how often, days; `leadDays`: days
 *   till an order comes; `reserveG`: what must still be there when the new one comes
 * @returns days it lasts, and till it must be ordered
 * @example stockForecast({ stockG: 100, uses: [{ grams: 1, intervalDays: 1 }], leadDays: 7, reserveG: 0 }).daysLeft // 100
 */
export function stockForecast({
  stockG,
  uses,
  leadDays,
  reserveG,
}: {
  readonly stockG: number;
  readonly uses: readonly { readonly grams: number; readonly intervalDays: number }[];
  readonly leadDays: number;
  readonly reserveG: number;
}): StockForecast {
  const perDay = uses.reduce((s, u) => s + u.grams / u.intervalDays, 0);
  if (perDay <= 0) return { gramsPerDay: 0, daysLeft: null, orderInDays: null };
  return {
    gramsPerDay: perDay,
    daysLeft: Math.max(0, stockG / perDay),
    orderInDays: (stockG - reserveG) / perDay - leadDays,
  };
}
