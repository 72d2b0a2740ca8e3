import type { LoadSample } from "../measure";
import { BoundError, normalEquations, solveLinear } from "../quantity";
import { baseRow, findShapes, type LoadShape, type ShapeSample } from "./load-shapes";
import { localSpots, type LocalSpot } from "./load-spots";

/** A parameter with its standard uncertainty. */
export interface LoadPart {
  readonly value: number;
  readonly u: number;
  /** More than three of its own uncertainties, and more than a tenth of the friction. */
  readonly real: boolean;
}

/** A stretch of the travel that is tighter than the rest, too broad to be a spot. */
export interface TightStretch {
  readonly fromMm: number;
  readonly toMm: number;
  readonly extra: LoadPart;
}

export const LOAD_METERS = ["signed", "unsigned"] as const;
export type LoadMeter = (typeof LOAD_METERS)[number];

export interface LoadTrace {
  /** How the meter was taken: with the sign of the force, or its size alone, as most show it. */
  readonly meter: LoadMeter;
  /** The samples alone do not tell which; somebody has to say. */
  readonly askMeter: boolean;
  /** A meter without a sign on an axis that gravity pulls: these two may be the other way round. */
  readonly frictionOrGravity: boolean;
  readonly friction: LoadPart;
  readonly gravity: LoadPart;
  readonly lowEnd: LoadPart;
  readonly highEnd: LoadPart;
  readonly stretches: readonly TightStretch[];
  /** A rise at an end and a tight stretch account for it about as well: which is not known. */
  readonly alike: boolean;
  /** Amplitude of the once-per-turn ripple. */
  readonly perTurn: LoadPart;
  readonly spots: readonly LocalSpot[];
  readonly scatter: number;
  /** Modelled load for each sample that was used, in order of the input; null where it was cut off. */
  readonly fitted: readonly (number | null)[];
  readonly cutOff: number;
}

export interface LoadTraceOptions {
  readonly perTurnMm: number;
  /** Cut off at each end of each stroke; null finds it from the travel. */
  readonly cutMm?: number | null;
  /** What somebody said of the meter; absent: from the samples. */
  readonly meter?: LoadMeter;
  /** Does gravity pull along this axis? */
  readonly gravityAxis?: boolean;
}

const TUKEY = 4.685;
/** Bins each way in which shapes are looked for: more tell nothing more. */
const BINS = 110;
/** Two accounts whose criteria lie nearer than this fit alike. */
const ALIKE = 12;

/**
 * Separates a load trace: load = friction·direction + gravity + rises at the ends + tight stretches +
 * once-per-turn ripple + local spots. Shapes of unknown place and width are chosen by the Bayesian
 * information criterion; the parts are then fitted robustly (Tukey’s biweight, iterated), so that
 * spots and acceleration zones do not bend the rest. u holds that neighbouring samples err alike.
 * Rises, stretches, spots and ripple are called where there is nothing in at most 5 % of traces, and
 * found at twice what counts in above 90 % (coverage bench). A meter that shows no sign is found by both directions reading the same way; on an axis that gravity
 * pulls it cannot tell friction from gravity (common practice, no source).
 * @param samples - load along the travel, both ways
 * @param options - `perTurnMm`: travel for a turn; `cutMm`: cut off at each end; `meter`: with or without a sign;
 *   `gravityAxis`
 * @returns the parts with U, and which of them are real
 * @throws BoundError when there are too few samples or only one direction
 * @example
 * const level = Array.from({ length: 200 }, (_, i) => ({ positionMm: 5 * (i % 100), direction: i < 100 ? "+" : "-", load: i < 100 ? 10 : -10 }));
 * analyseLoadTrace(level, { perTurnMm: 10 }).friction.value // 10
 */
export function analyseLoadTrace(samples: readonly LoadSample[], options: LoadTraceOptions): LoadTrace {
  const places = samples.map((s) => s.positionMm);
  const [low, high] = [Math.min(...places), Math.max(...places)];
  const span = high - low;
  checkSamples(samples, span);
  const cut = options.cutMm ?? 0.03 * span;
  const used = samples.map((s) => s.positionMm >= low + cut && s.positionMm <= high - cut);
  const kept = samples.filter((_, i) => used[i]);
  const { meter, ask } = meterOf(kept, options);
  const ripple = span > 3 * options.perTurnMm;
  const shown = kept.map((s): ShapeSample => {
    const sign = s.direction === "+" ? 1 : -1;
    return {
      part: (s.positionMm - low) / span,
      sign,
      turn: (2 * Math.PI * s.positionMm) / options.perTurnMm,
      load: meter === "unsigned" ? sign * s.load : s.load,
    };
  });
  const chosen = chooseShapes(shown, ripple);
  const first = ripple ? 4 : 2;
  const fitted = realShapes(kept, shown, { ripple, shapes: chosen.shapes });
  const { shapes, part, left, predicted, scatter, grows, x, covariance } = fitted;
  const alike = chosen.alike && shapes.length > 0;
  const friction = Math.abs(x[0]);
  const none: LoadPart = { value: 0, u: grows * scatter * Math.sqrt(8 / kept.length), real: false };
  const of = (kind: LoadShape["kind"]): readonly { shape: LoadShape; extra: LoadPart }[] =>
    shapes.flatMap((shape, i) => (shape.kind === kind ? [{ shape, extra: part(first + i) }] : []));
  const amplitude = ripple ? Math.hypot(x[2], x[3]) : 0;
  const uAmplitude = ripple ? grows * Math.sqrt((covariance[2][2] + covariance[3][3]) / 2) : 0;
  const signs = kept.map((s) => (meter === "unsigned" && s.direction === "-" ? -1 : 1));
  const flat = (kind: "low" | "high"): LoadPart => of(kind).at(0)?.extra ?? none;
  let next = 0;
  return {
    meter,
    askMeter: ask,
    frictionOrGravity: meter === "unsigned" && (options.gravityAxis ?? false),
    friction: part(0),
    gravity: part(1),
    lowEnd: flat("low"),
    highEnd: flat("high"),
    stretches: of("broad")
      .filter((b) => b.extra.real)
      .map(({ shape, extra }) => ({
        fromMm: low + shape.from * span,
        toMm: low + shape.to * span,
        extra,
      })),
    alike,
    perTurn: {
      value: amplitude,
      u: uAmplitude,
      real: ripple && amplitude > 3.5 * uAmplitude && amplitude > 0.12 * friction,
    },
    spots: localSpots(kept, { residuals: left, scatter, friction }),
    scatter,
    fitted: used.map((u) => (u ? signs[next] * predicted[next++] : null)),
    cutOff: samples.length - kept.length,
  };
}

/** Fits, leaving out every shape that chance could have made: it would take from the friction. */
function realShapes(
  kept: readonly LoadSample[],
  shown: readonly ShapeSample[],
  { ripple, shapes }: { readonly ripple: boolean; readonly shapes: readonly LoadShape[] },
): FittedShapes {
  const fitted = fitShapes(kept, shown, { ripple, shapes });
  const { part } = fitted;
  const real = fitted.shapes.filter((_, i) => part((ripple ? 4 : 2) + i).real);
  return real.length === fitted.shapes.length ? fitted : realShapes(kept, shown, { ripple, shapes: real });
}

interface FittedShapes {
  readonly shapes: readonly LoadShape[];
  readonly x: readonly number[];
  readonly covariance: readonly (readonly number[])[];
  readonly scatter: number;
  readonly predicted: readonly number[];
  readonly left: readonly number[];
  /** How much larger u is because neighbours err alike. */
  readonly grows: number;
  readonly part: (i: number) => LoadPart;
}

/** Fits the parts of a trace robustly, with the shapes given. */
function fitShapes(
  kept: readonly LoadSample[],
  shown: readonly ShapeSample[],
  { ripple, shapes }: { readonly ripple: boolean; readonly shapes: readonly LoadShape[] },
): FittedShapes {
  const rows = shown.map((s) => [...baseRow(s, ripple), ...shapes.map((shape) => s.sign * shape.at(s.part))]);
  const loads = shown.map((s) => s.load);
  const { x, covariance, scatter } = robustFit(rows, loads);
  const predicted = rows.map((r) => r.reduce((s, a, i) => s + a * x[i], 0));
  const left = loads.map((l, i) => l - predicted[i]);
  const grows = alikeness(kept, left, scatter);
  const part = (i: number): LoadPart => {
    const u = grows * Math.sqrt(covariance[i][i]);
    const size = Math.abs(x[i]);
    const real = size > 3 * u && size > 0.1 * Math.abs(x[0]);
    return { value: x[i], u, real };
  };
  return { shapes, x, covariance, scatter, predicted, left, grows, part };
}

function checkSamples(samples: readonly LoadSample[], span: number): void {
  if (samples.length < 40) throw new BoundError("samples", samples.length, "at least 40");
  const ways = new Set(samples.map((s) => s.direction));
  if (ways.size < 2) throw new BoundError("directions", 1, "2: one traverse each way");
  if (!(span > 0)) throw new BoundError("traverse, mm", span, "above 0");
}

/** With or without the sign of the force: both ways reading alike is a meter without one. */
function meterOf(
  samples: readonly LoadSample[],
  { meter, gravityAxis = false }: LoadTraceOptions,
): { readonly meter: LoadMeter; readonly ask: boolean } {
  if (meter) return { meter, ask: false };
  const below = (way: "+" | "-"): number => {
    const loads = samples.filter((s) => s.direction === way).map((s) => s.load);
    return loads.filter((l) => l < 0).length / loads.length;
  };
  const [plus, minus] = [below("+"), below("-")];
  const signed = plus > 0.05 || minus > 0.05;
  if (!signed) return { meter: "unsigned", ask: gravityAxis };
  // Gravity that is more than friction holds a signed meter on one side too, but below zero.
  return { meter: "signed", ask: false };
}

/** The shapes that account for the trace, and whether an end and a stretch do it alike. */
function chooseShapes(
  samples: readonly ShapeSample[],
  ripple: boolean,
): { readonly shapes: readonly LoadShape[]; readonly alike: boolean } {
  const binned = binnedSamples(samples);
  const sizes = binned.map((s) => Math.abs(s.load));
  const scatterFloor = 0.004 * median(sizes) + 1e-6;
  const best = findShapes(binned, { ripple, scatterFloor });
  const shapes = best.shapes.filter((s) => s.kind !== "spot");
  const lead = shapes.at(0);
  if (!lead) return { shapes, alike: false };
  const forbidden = lead.kind === "broad" ? (["broad"] as const) : (["low", "high"] as const);
  const other = findShapes(binned, { ripple, scatterFloor, forbidden });
  const another = other.shapes.some((s) => s.kind !== "spot");
  return { shapes, alike: another && other.criterion - best.criterion < ALIKE };
}

function binnedSamples(samples: readonly ShapeSample[]): ShapeSample[] {
  if (samples.length <= 2 * BINS) return [...samples];
  const bins = new Map<string, ShapeSample[]>();
  for (const s of samples) {
    const key = `${s.sign} ${Math.min(BINS - 1, Math.floor(s.part * BINS))}`;
    const list = bins.get(key);
    if (list) list.push(s);
    else bins.set(key, [s]);
  }
  // The middle of a bin: acceleration and single knocks do not count.
  return [...bins.values()].map((list) => {
    const load = median(list.map((s) => s.load));
    const centre = list[Math.floor(list.length / 2)];
    return { ...centre, load };
  });
}

/**
 * How much neighbouring samples err alike makes u larger: √((1 + ρ)/(1 − ρ)) for the correlation of
 * each residual with the next one in its direction. A short trace shows less of ρ than there is, by
 * about (1 + 4ρ)/n (Kendall 1954; Marriott & Pope 1954, from memory): that is put back.
 */
function alikeness(samples: readonly LoadSample[], left: readonly number[], scatter: number): number {
  let [products, squares] = [0, 0];
  for (const way of ["+", "-"] as const) {
    const own = left.filter((_, i) => samples[i].direction === way).filter((r) => Math.abs(r) < 4 * scatter);
    for (let i = 1; i < own.length; i += 1) products += own[i] * own[i - 1];
    for (const r of own) squares += r * r;
  }
  if (squares === 0) return 1;
  const n = samples.length / 2;
  const seen = products / squares;
  const rho = Math.min(0.97, Math.max(0, (seen + 1 / n) / (1 - 4 / n)));
  return Math.sqrt((1 + rho) / (1 - rho));
}

function robustFit(
  rows: readonly (readonly number[])[],
  loads: readonly number[],
): { x: number[]; scatter: number; covariance: number[][] } {
  let weights = loads.map(() => 1);
  let x: number[] = [];
  let scatter = 0;
  for (let round = 0; round < 25; round += 1) {
    const { matrix, right } = normalEquations(rows, loads, weights);
    const solved = solveLinear(matrix, right);
    if (!solved) throw new BoundError("samples", rows.length, "spread over the travel in both directions");
    const moved = x.length ? Math.max(...solved.map((v, i) => Math.abs(v - x[i]))) : Infinity;
    x = solved;
    const residuals = loads.map((l, i) => l - rows[i].reduce((s, a, k) => s + a * x[k], 0));
    scatter = Math.max(median(residuals.map(Math.abs)) / 0.6745, 1e-9);
    weights = residuals.map((r) => {
      const z = r / (TUKEY * scatter);
      return Math.abs(z) < 1 ? (1 - z * z) ** 2 + 1e-9 : 1e-9;
    });
    if (moved < 1e-9 * Math.max(1, Math.abs(x[0]))) break;
  }
  const { matrix } = normalEquations(rows, loads, weights);
  const covariance = matrix.map((_, c) =>
    (
      solveLinear(
        matrix,
        matrix.map((__, i) => (i === c ? 1 : 0)),
      ) ?? []
    ).map((v) => v * scatter * scatter),
  );
  return { x, scatter, covariance };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}
