import { effectiveDof, inQuadrature, mean, studentQuantile, type UncertaintyPart } from "../../quantity";
import type { PlaceResult } from "./place-result";

/** A stretch of the travel that loses more, or less, than the rest. */
export interface Region {
  readonly where: "middle" | "lower end" | "upper end";
  readonly fromMm: number;
  readonly toMm: number;
  readonly peakMm: number;
  /** How much more (or less) than the rest, mm, above 0. */
  readonly excessMm: number;
  readonly expandedMm: number;
}

/**
 * How a loss lies along the travel. `worse`: one stretch loses more than the rest, as wear does.
 * `less`: one stretch loses least, which wear does not do. `even`: no place stands out, and an excess
 * of `seesMm` would have been seen.
 */
export type ProfileShape =
  | ({ readonly code: "worse" } & Region)
  | ({ readonly code: "less" } & Region)
  | { readonly code: "even"; readonly seesMm: number };

/** Chance of finding a stretch in an even profile, over all places and both ways together. */
const FALSE_ALARM = 0.05;

interface Contrast {
  readonly excessMm: number;
  readonly parts: readonly UncertaintyPart[];
  readonly base: number;
}

/** A place against the rest: inside the travel against both ends, at an end against the other half. */
function contrastAt(places: readonly PlaceResult[], at: number): Contrast | null {
  const last = places.length - 1;
  const atEnd = at === 0 || at === last;
  const quarter = Math.max(1, Math.floor(places.length / 5));
  const others = places.filter((_, i) =>
    i === at ? false : atEnd ? Math.abs(i - at) > last / 2 : i < quarter || i > last - quarter,
  );
  if (others.length === 0) return null;
  const base = mean(others.map((p) => p.reversalValueMm));
  const n = others.length;
  const display = inQuadrature(places[at].uDisplayMm, ...others.map((p) => p.uDisplayMm / n));
  const scatter = inQuadrature(places[at].uScatterMm, ...others.map((p) => p.uScatterMm / n));
  const dof = Math.min(...[places[at], ...others].map((p) => p.scatterDof));
  return {
    base,
    excessMm: places[at].reversalValueMm - base,
    parts: [
      { u: display, dof: Infinity },
      { u: scatter, dof },
    ],
  };
}

/**
 * Where along the travel the loss stands out, by its signed value: a profile that compensation has
 * pushed below zero is worn where it is highest. Every place is held against the rest on Student’s t
 * by its effective degrees of freedom; the false-alarm rate is at most 5 % over all places and both
 * ways together (Bonferroni), measured in the coverage bench, where an excess of twice the limit is
 * found in more than 90 of 100.
 * @param places - results along the travel
 * @returns the stretch and how far it stands out, mm; null where nothing does
 * @example profileShape([]) // null
 */
export function profileShape(places: readonly PlaceResult[]): ProfileShape | null {
  if (places.length < 5) return null;
  const alpha = FALSE_ALARM / places.length;
  const judged = places.flatMap((_, at) => {
    const contrast = contrastAt(places, at);
    if (!contrast) return [];
    const u = inQuadrature(...contrast.parts.map((p) => p.u));
    const dof = Math.max(1, effectiveDof(contrast.parts));
    const expandedMm = studentQuantile(alpha, dof) * u;
    return [{ at, ...contrast, expandedMm }];
  });
  const seesMm = Math.max(...judged.map((j) => j.expandedMm));
  const over = judged.filter((j) => Math.abs(j.excessMm) > j.expandedMm);
  if (over.length === 0) return { code: "even", seesMm };
  // An end that is high makes the middle look low: the larger difference is the one that is named.
  const named = over.reduce((a, b) => (Math.abs(b.excessMm) > Math.abs(a.excessMm) ? b : a));
  return regionAt(places, named);
}

function regionAt(
  places: readonly PlaceResult[],
  found: Contrast & { readonly at: number; readonly expandedMm: number },
): ProfileShape {
  const sign = Math.sign(found.excessMm);
  const half = found.excessMm / 2;
  const beyond = (i: number): boolean => sign * (places[i].reversalValueMm - found.base - half) > 0;
  let from = found.at;
  let to = found.at;
  while (from > 0 && beyond(from - 1)) from -= 1;
  while (to < places.length - 1 && beyond(to + 1)) to += 1;
  const last = places.length - 1;
  const where = from === 0 ? "lower end" : to === last ? "upper end" : "middle";
  return {
    code: sign > 0 ? "worse" : "less",
    where,
    fromMm: places[from].positionMm,
    toMm: places[to].positionMm,
    peakMm: places[found.at].positionMm,
    excessMm: Math.abs(found.excessMm),
    expandedMm: found.expandedMm,
  };
}

/**
 * The stretch that loses more than the rest, if there is one.
 * @param places - results along the travel
 * @returns the stretch
 * @example worseRegion([]) // null
 */
export function worseRegion(places: readonly PlaceResult[]): Region | null {
  const shape = profileShape(places);
  return shape?.code === "worse" ? shape : null;
}
