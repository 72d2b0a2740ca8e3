import { conformity, type Conformity } from "../../quantity";
import type { CircleFinding, CircleKind } from "./circle-findings";

/** What a machine’s circle is judged by: the standard’s quantities, the parts, and the tremble. */
export const CIRCLE_LIMITED = [
  "gBoth",
  "h",
  "lost",
  "spike",
  "ripple",
  "bow",
  "across",
  "mismatch",
  "square",
  "servo",
  "tremble",
] as const;
export type CircleLimited = (typeof CIRCLE_LIMITED)[number];

/** In the value’s own unit: mm, mm for a mm, rad, s. */
export interface CircleLimit {
  readonly leave: number;
  readonly repair: number;
}
export type CircleLimits = Readonly<Record<CircleLimited, CircleLimit>>;

/** Common practice, no source: a machining centre in ordinary order; the shop sets its own by what it makes. */
export const USUAL_CIRCLE_LIMITS: CircleLimits = {
  gBoth: { leave: 0.015, repair: 0.03 },
  h: { leave: 0.01, repair: 0.02 },
  lost: { leave: 0.01, repair: 0.025 },
  spike: { leave: 0.006, repair: 0.015 },
  ripple: { leave: 0.003, repair: 0.008 },
  bow: { leave: 0.004, repair: 0.012 },
  across: { leave: 0.003, repair: 0.008 },
  mismatch: { leave: 25e-6, repair: 60e-6 },
  square: { leave: 30e-6, repair: 80e-6 },
  servo: { leave: 0.0003, repair: 0.0009 },
  tremble: { leave: 0.001, repair: 0.0025 },
};

/**
 * Judges a value of a circle by the one decision rule, with its uncertainty.
 * @param what - which limit
 * @param value - value and U, in its own unit
 * @param limits - of the machine
 * @returns a code with values
 * @throws BoundError where a limit is not above 0 and below the other
 * @example judgeCircle("square", { value: 100e-6, u: 5e-6 }, USUAL_CIRCLE_LIMITS).code // 'act'
 */
export function judgeCircle(
  what: CircleLimited,
  { value, u }: { readonly value: number; readonly u: number },
  limits: CircleLimits,
): Conformity {
  const { leave, repair } = limits[what];
  // Millionths are judged as they would be on a metre.
  const size = what === "mismatch" || what === "square" ? 1000 : 1;
  return conformity(
    { reversalValueMm: size * value, expandedMm: size * u },
    { leaveMm: size * leave, repairMm: size * repair },
  );
}

/** What a finding is to whoever has to mend it. */
export type CircleLead =
  /** To the axis’ ledger as a loss of the whole chain, at this place and feed. */
  | { readonly to: "case"; readonly letter: string; readonly because: CircleKind }
  /** Friction at the turn: normal for weeks after fresh bearings or a fresh screw. */
  | { readonly to: "wait"; readonly letter: string }
  | { readonly to: "table" }
  | { readonly to: "level" }
  | { readonly to: "control" };

/**
 * Where a finding leads.
 * @param finding - a part of a circle
 * @param freshLetters - axes whose bearings, screw or nut were renewed in the last weeks
 * @returns what it is a matter for
 * @example
 * const square = { kind: "square", axis: null, letter: null, value: 1e-4, u: 1e-6, onCircleMm: 0.01, ends: null, parts: [], with: [], without: { gMm: [], gBothMm: null, hMm: null } };
 * leadOf(square, []).to // 'level'
 */
export function leadOf(finding: CircleFinding, freshLetters: readonly string[]): CircleLead {
  const { kind, letter } = finding;
  if (kind === "mismatch") return { to: "table" };
  if (kind === "square") return { to: "level" };
  if (kind === "servo" || letter === null) return { to: "control" };
  if (kind === "spike" && freshLetters.includes(letter)) return { to: "wait", letter };
  return { to: "case", letter, because: kind };
}
