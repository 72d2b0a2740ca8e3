import type { CircleFit } from "./circle-fit";
import type { CirclePart } from "./circle-model";
import type { CircleQuantities } from "./circle-quantities";
import type { CircleSetup } from "./circle-trace";

/** What a circle shows of two axes, each as a mechanic would mend it. */
export const CIRCLE_KINDS = ["lost", "spike", "ripple", "bow", "across", "mismatch", "square", "servo"] as const;
export type CircleKind = (typeof CIRCLE_KINDS)[number];

/** Of one axis; the others are of the plane. */
export const AXIS_KINDS: readonly CircleKind[] = ["lost", "spike", "ripple", "bow", "across"];

export interface CircleFinding {
  readonly kind: CircleKind;
  /** First or second axis of the plane; null for what is of both. */
  readonly axis: 0 | 1 | null;
  readonly letter: string | null;
  /** mm; mm for a mm (mismatch), rad (square), s (servo). */
  readonly value: number;
  /** Expanded uncertainty, about 95 %. */
  readonly u: number;
  /** How much of the circle it is, from its lowest to its highest, mm. */
  readonly onCircleMm: number;
  /** Of the loss: what it is at the upper and the lower end of the circle, mm; null where both ends cannot be told. */
  readonly ends: { readonly plusMm: number; readonly minusMm: number; readonly differ: boolean } | null;
  readonly parts: readonly CirclePart[];
  /** Other kinds that these readings cannot tell from it. */
  readonly with: readonly string[];
  /** The standard’s quantities without it, mm. */
  readonly without: {
    readonly gMm: readonly number[];
    readonly gBothMm: number | null;
    readonly hMm: number | null;
    /** Expanded uncertainty of G(b) read anew with it mended, mm; what was kept before it was worked out has none. */
    readonly uMm?: number;
  };
}

const partsOf = (kind: CircleKind, axis: 0 | 1 | null): readonly CirclePart[] => {
  const own = axis === null ? "" : `-${axis + 1}`;
  if (kind === "lost") return [`lost${own}`, `lost-slope${own}`] as CirclePart[];
  if (kind === "ripple") return [`ripple-sin${own}`, `ripple-cos${own}`] as CirclePart[];
  return [`${kind}${own}` as CirclePart];
};

/** What a bow of one millimetre makes of the circle: cos² sin goes from −0.385 to 0.385. */
const BOW_SHOWS = 4 / (3 * Math.sqrt(3));

/** From the lowest to the highest on the circle, for a value of a kind. */
function onCircle(kind: CircleKind, value: number, { radiusMm, feedMmMin }: CircleSetup): number {
  const size = Math.abs(value);
  if (kind === "mismatch" || kind === "square") return size * radiusMm;
  if (kind === "servo") return size * (feedMmMin / 60);
  if (kind === "ripple") return 2 * size;
  return kind === "bow" ? BOW_SHOWS * size : size;
}

/**
 * The parts of a circle as what could be mended, the one that makes most of it first.
 * @param fit - a circle taken apart
 * @param setup - what was commanded
 * @returns one row for each, with what would be left of the circle without it
 * @example
 * const angles = Float64Array.from({ length: 720 }, (_, i) => (i * Math.PI) / 360);
 * const leaning = { angles, deviations: angles.map((a) => 0.003 * Math.sin(2 * a)) };
 * const setup = { radiusMm: 100, feedMmMin: 1000, centreMm: [0, 0], axes: [{ letter: "X", perTurnMm: null }, { letter: "Y", perTurnMm: null }] };
 * circleFindings(fitCircle([{ direction: 1, ...leaning }, { direction: -1, ...leaning }], setup), setup)[0].kind // 'square'
 */
export function circleFindings(fit: CircleFit, setup: CircleSetup): readonly CircleFinding[] {
  const places = CIRCLE_KINDS.flatMap((kind): readonly (readonly [CircleKind, 0 | 1 | null])[] =>
    AXIS_KINDS.includes(kind)
      ? [
          [kind, 0],
          [kind, 1],
        ]
      : [[kind, null]],
  );
  return places
    .flatMap(([kind, axis]) => {
      const found = findingOf(fit, setup, { kind, axis });
      return found ? [found] : [];
    })
    .sort((a, b) => b.onCircleMm - a.onCircleMm);
}

function findingOf(
  fit: CircleFit,
  setup: CircleSetup,
  { kind, axis }: { readonly kind: CircleKind; readonly axis: 0 | 1 | null },
): CircleFinding | null {
  const parts = partsOf(kind, axis).filter((id) => fit.parts.some((p) => p.id === id));
  const [first, second] = parts.map((id) => fit.parts.find((p) => p.id === id));
  if (!first) return null;
  const waves = kind === "ripple" && second;
  const value = waves ? Math.hypot(first.value, second.value) : first.value;
  const u = waves
    ? Math.hypot(first.value * first.u, second.value * second.u) / (value || 1) || Math.max(first.u, second.u)
    : first.u;
  const quantities: CircleQuantities = fit.without(parts);
  return {
    kind,
    axis,
    letter: axis === null ? null : setup.axes[axis].letter,
    value,
    u,
    onCircleMm: onCircle(kind, value, setup),
    ends:
      kind === "lost" && second
        ? {
            plusMm: first.value + second.value,
            minusMm: first.value - second.value,
            // By more than either is known to.
            differ: Math.abs(second.value) > second.u && 2 * Math.abs(second.value) > first.u,
          }
        : null,
    parts,
    with: [...new Set(fit.together.flatMap(({ a, b }) => (parts.includes(a) ? [b] : parts.includes(b) ? [a] : [])))],
    without: {
      gMm: quantities.g.map((g) => g.mm),
      gBothMm: quantities.gBoth,
      hMm: quantities.h?.mm ?? null,
    },
  };
}
