import { coverageFactor } from "../../quantity";
import type { LinePoint } from "./broken-line";

/** What a profile can say of the error that comes back with each turn of the screw. */
export type LeadRipple =
  /** Its size, with U. */
  | {
      readonly code: "told";
      readonly amplitudeMm: number;
      readonly uMm: number;
      readonly sin: number;
      readonly cos: number;
    }
  /** All places lie at one part of the turn: it stands as a shift that nobody sees. */
  | { readonly code: "hidden" }
  /** The places walk slowly through the turn: it looks like a slow error of this length. */
  | { readonly code: "fakes-slow"; readonly waveMm: number }
  /** Too few places to say anything. */
  | { readonly code: "too-few" };

/** Share of the ripple that must be left when what is slow has been taken out of it. */
const LEFT = 0.25;
/** Bends a slow error may have along the travel. */
const SLOW = 7;

type Column = readonly number[];

/** Times its U that a ripple must be to be taken for real: it was looked for at any phase (common practice, no source). */
const CLEAR = 1.5;

/**
 * Is there a ripple beyond doubt?
 * @param ripple - what was found
 * @returns it, where its size is clearly more than its U; null where not
 * @example clearRipple({ code: "hidden" }) // null
 */
export function clearRipple(ripple: LeadRipple): (LeadRipple & { readonly code: "told" }) | null {
  return ripple.code === "told" && ripple.amplitudeMm > CLEAR * ripple.uMm ? ripple : null;
}

/** Takes out of a column what others of it explain; columns are unit length and at right angles afterwards. */
function without(column: Column, basis: readonly Column[]): Column {
  let left = column;
  // Twice, against rounding (Kahan: twice is enough).
  for (let pass = 0; pass < 2; pass += 1)
    for (const b of basis) {
      const part = dot(left, b);
      left = left.map((v, i) => v - part * b[i]);
    }
  return left;
}

const dot = (a: Column, b: Column): number => a.reduce((sum, v, i) => sum + v * b[i], 0);

function unit(column: Column): Column {
  const size = Math.sqrt(dot(column, column));
  return column.map((v) => v / size);
}

/** Slow errors: straight lines and gentle bends, at right angles to each other. */
function slowBasis(places: readonly number[], bends: number): readonly Column[] {
  const low = Math.min(...places);
  const span = Math.max(...places) - low || 1;
  const basis: Column[] = [];
  for (let power = 0; power <= bends; power += 1)
    basis.push(
      unit(
        without(
          places.map((p) => ((2 * (p - low)) / span - 1) ** power),
          basis,
        ),
      ),
    );
  return basis;
}

/**
 * Looks for the error once a turn in deviations along the travel. Places at a multiple of the lead, or close to it, cannot
 * show it: ISO 230-2:2014, 4.3.2 asks for uneven places for that reason.
 * @param read - mean deviations at places, mm, with U of each where it is known
 * @param perTurnMm - travel for a turn of the screw, mm
 * @returns size with U, or why it cannot be told
 * @example
 * leadRipple([0, 50, 100, 150, 200, 250, 300, 350].map((atMm) => ({ atMm, valueMm: 0 })), 10).code // 'hidden'
 */
export function leadRipple(read: readonly LinePoint[], perTurnMm: number): LeadRipple {
  const bends = Math.min(SLOW, Math.floor(read.length / 3));
  if (read.length < 7) return { code: "too-few" };
  const places = read.map((r) => r.atMm);
  const turns = places.map((p) => (2 * Math.PI * p) / perTurnMm);
  const slow = slowBasis(places, bends);
  const columns = [turns.map(Math.sin), turns.map(Math.cos)];
  const [least, flat] = [leftOf(columns, slow), leftOf(columns, slow.slice(0, 1))];
  if (flat < LEFT) return { code: "hidden" };
  if (least < LEFT) return { code: "fakes-slow", waveMm: aliasOf(places, perTurnMm) };
  return fitted(read, columns, slow);
}

/** The least part of any ripple, whatever its phase, that the basis leaves over: 0 to 1. */
function leftOf(columns: readonly Column[], basis: readonly Column[]): number {
  const [a, b] = columns.map((c) => without(c, basis));
  const [p, q, r] = [dot(a, a), dot(a, b), dot(b, b)];
  const smallest = (p + r) / 2 - Math.hypot((p - r) / 2, q);
  return Math.max(0, smallest) / (columns[0].length / 2);
}

/** Length of the wave that the ripple is mistaken for, mm. */
function aliasOf(places: readonly number[], perTurnMm: number): number {
  const step = (places[places.length - 1] - places[0]) / (places.length - 1);
  const turns = step / perTurnMm;
  const off = Math.abs(turns - Math.round(turns));
  return off < 1e-6 ? Infinity : step / off;
}

function fitted(read: readonly LinePoint[], columns: readonly Column[], slow: readonly Column[]): LeadRipple {
  const values = without(
    read.map((r) => r.valueMm),
    slow,
  );
  const [a, b] = columns.map((c) => without(c, slow));
  const [p, q, r] = [dot(a, a), dot(a, b), dot(b, b)];
  const [x, y] = [dot(a, values), dot(b, values)];
  const det = p * r - q * q;
  const [sin, cos] = [(r * x - q * y) / det, (p * y - q * x) / det];
  const rest = values.map((v, i) => v - sin * a[i] - cos * b[i]);
  const dof = read.length - slow.length - 2;
  if (dof < 1) return { code: "too-few" };
  const s = Math.sqrt(dot(rest, rest) / dof);
  const uMm = coverageFactor(dof) * s * Math.sqrt(Math.max(p, r) / det);
  return { code: "told", amplitudeMm: Math.hypot(sin, cos), uMm, sin, cos };
}

/** Least part of a ripple of any phase that is left beside slow errors at these places: 0 none, 1 all. */
function shown(places: readonly number[], perTurnMm: number): number {
  const turns = places.map((p) => (2 * Math.PI * p) / perTurnMm);
  const bends = Math.min(SLOW, Math.floor(places.length / 3));
  return leftOf([turns.map(Math.sin), turns.map(Math.cos)], slowBasis(places, bends));
}

/** Digits of a whole number turned round behind the point: spread evenly, in no steady step (van der Corput). */
function turnedRound(n: number, base: number): number {
  let [left, part, sum] = [n, 1 / base, 0];
  while (left > 0) {
    sum += part * (left % base);
    left = Math.floor(left / base);
    part /= base;
  }
  return sum;
}

/**
 * Places for a profile that shows what comes back with each turn: step by step with a part of a turn added that spreads
 * over it in no steady step, ISO 230-2:2014, 4.3.2: P = (i − 1)·p + r. Of some such sequences that which leaves most of
 * the ripple beside slow errors.
 * @param rangeMm - lowest and highest place, mm
 * @param stepMm - about how far apart, mm
 * @param perTurnMm - travel for a turn of the screw, mm
 * @returns places, ascending, mm to 0.1
 * @example unevenPlaces([30, 470], 50, 10).length // 9
 */
export function unevenPlaces(rangeMm: readonly [number, number], stepMm: number, perTurnMm: number): readonly number[] {
  const [low, high] = rangeMm;
  const most = Math.min(perTurnMm, 0.8 * stepMm);
  const count = Math.max(2, Math.floor((high - low - most) / stepMm + 1e-9) + 1);
  const sequences = [2, 3, 5, 7].flatMap((base) =>
    [1, 4, 9].map((from) =>
      Array.from({ length: count }, (_, i) =>
        Math.min(high, Number((low + i * stepMm + most * turnedRound(from + i, base)).toFixed(1))),
      ),
    ),
  );
  const worth = sequences.map((places) => (count < 7 ? 0 : shown(places, perTurnMm)));
  return sequences[worth.indexOf(Math.max(...worth))];
}
