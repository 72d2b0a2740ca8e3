import { requireBound } from "./bound-error";

/** What is left alone up to `leaveMm` and repaired first above `repairMm`. */
export interface ConformityLimits {
  readonly leaveMm: number;
  readonly repairMm: number;
}

/** A measured value as it is judged; U null where nobody can say how well it is known. */
export interface JudgedValue {
  readonly reversalValueMm: number;
  /** Expanded uncertainty, about 95 %, mm. */
  readonly expandedMm: number | null;
}

interface Judged {
  /** Bounds of the magnitude, mm. */
  readonly fromMm: number;
  readonly toMm: number;
}

/**
 * The verdict of a measured value against two limits.
 * - `sound`: the interval lies wholly inside what can be left.
 * - `watch`: past what can be left, wholly under the limit for repair; `perhaps` where it reaches
 *   down under what can be left too.
 * - `act`: wholly over the limit for repair.
 * - `cannot-tell`: the interval holds the limit for repair, or nobody knows how wide it is;
 *   `likelier` says on which side the value itself stands.
 */
export type Conformity =
  | ({ readonly code: "sound" } & Judged)
  | ({ readonly code: "watch"; readonly perhaps: boolean } & Judged)
  | ({ readonly code: "act" } & Judged)
  | ({
      readonly code: "cannot-tell";
      readonly because: "holds-limit" | "uncertainty-unknown";
      readonly likelier: "under" | "over" | "at-limit";
    } & Judged);

/** Lengths nearer than this are the same: limits are typed in tenths, kept in millimetres. */
const SAME_MM = 1e-9;

/**
 * Decides whether a loss conforms, with its uncertainty. Limits apply to the magnitude: a gain of
 * 18 µm is as far off as a loss of 18 µm. A value at a limit is not over it.
 *
 * After ISO 14253-1: conformity is proven only when the whole interval of the measured value lies
 * inside the limit, non-conformity only when it lies wholly outside. U here is expanded to about
 * 95 % by the effective degrees of freedom and taken on both sides, which is stricter than the
 * one-sided guard band of the 2017 edition (from memory). With coverage of 95 % a sound axis at its
 * limit is called `act`, and a bad one at its limit `sound`, in at most 2.5 % of cases each; the
 * coverage test measures both.
 * @param value - loss and expanded uncertainty, mm; a loss may be negative
 * @param limits - `leaveMm` above 0 and below `repairMm`
 * @returns a code with values; sentences are made of it elsewhere
 * @throws BoundError when a number is not finite, U is below 0 or the limits are in the wrong order
 * @example conformity({ reversalValueMm: 0.03, expandedMm: 0.002 }, { leaveMm: 0.01, repairMm: 0.025 }).code // 'act'
 */
export function conformity(value: JudgedValue, limits: ConformityLimits): Conformity {
  const { reversalValueMm, expandedMm } = value;
  const { leaveMm, repairMm } = limits;
  requireBound({ loss: reversalValueMm }, Number.isFinite(reversalValueMm), "a finite number");
  requireBound({ leave: leaveMm }, leaveMm > 0, "above 0 mm");
  requireBound({ repair: repairMm }, repairMm > leaveMm, `above ${leaveMm} mm`);
  const size = Math.abs(reversalValueMm);
  const likelier = Math.abs(size - repairMm) <= SAME_MM ? "at-limit" : size > repairMm ? "over" : "under";
  if (expandedMm === null)
    return {
      code: "cannot-tell",
      because: "uncertainty-unknown",
      likelier,
      fromMm: 0,
      toMm: Infinity,
    };
  requireBound({ U: expandedMm }, expandedMm >= 0, "0 mm or more");
  const fromMm = Math.max(0, size - expandedMm);
  const toMm = size + expandedMm;
  if (toMm <= leaveMm + SAME_MM) return { code: "sound", fromMm, toMm };
  if (fromMm > repairMm + SAME_MM) return { code: "act", fromMm, toMm };
  if (toMm > repairMm + SAME_MM)
    return {
      code: "cannot-tell",
      because: "holds-limit",
      likelier,
      fromMm,
      toMm,
    };
  return { code: "watch", perhaps: fromMm < leaveMm - SAME_MM, fromMm, toMm };
}

export type AxisState = "sound" | "watch" | "act" | "unknown";

/**
 * The drawn state of a verdict: what cannot be told is drawn as unknown.
 * @param judged - a verdict of {@link conformity}
 * @returns one of the four drawn states
 * @example stateOfConformity(conformity({ reversalValueMm: 0.005, expandedMm: 0.001 }, { leaveMm: 0.01, repairMm: 0.025 })) // 'sound'
 */
export function stateOfConformity(judged: Conformity): AxisState {
  return judged.code === "cannot-tell" ? "unknown" : judged.code;
}

/**
 * The one word of a verdict, the same on every screen; never measured is “unknown”.
 * @param judged - a verdict of {@link conformity}, null where nobody measured
 * @returns the word
 * @example conformityText(null) // 'unknown'
 */
export function conformityText(judged: Conformity | null): string {
  if (!judged) return "unknown";
  if (judged.code === "cannot-tell") return "cannot tell";
  if (judged.code === "watch" && judged.perhaps) return "perhaps watch";
  return judged.code;
}

/**
 * Is a test worth doing against these limits? A U above a quarter of the nearer limit leaves too
 * little between the limits (common practice: a measurement four times better than what it judges).
 * @param expandedMm - U to be expected, mm
 * @param limits - limits of the axis, mm
 * @param nearestMm - where the last value stood, mm; null when never measured: then the lower limit
 * @returns whether U is too wide, and for which limit, mm
 * @example tooWideFor(0.003, { leaveMm: 0.01, repairMm: 0.025 }).wide // true
 */
export function tooWideFor(
  expandedMm: number,
  limits: ConformityLimits,
  nearestMm: number | null = null,
): { readonly wide: boolean; readonly limitMm: number } {
  const { leaveMm, repairMm } = limits;
  const size = Math.abs(nearestMm ?? 0);
  const limitMm = Math.abs(size - repairMm) < Math.abs(size - leaveMm) ? repairMm : leaveMm;
  return { wide: expandedMm > limitMm / 4 + SAME_MM, limitMm };
}
