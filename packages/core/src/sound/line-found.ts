import type { ExpectedLine } from "./expected-lines";
import type { OrderSpectrum } from "./order-spectrum";

/** A line that stands out of an order spectrum, or the best there is where none does. */
export interface LineFound {
  readonly family: ExpectedLine["family"];
  /** Where, orders. */
  readonly order: number;
  /** How much it stands out, dB. */
  readonly overDb: number;
  /** Chance that noise alone shows as much somewhere in the span. */
  readonly chance: number;
}

/** A median lies under the mean of powers that scatter as noise does: by so much for averages of so many. */
const MEDIAN_OF_MEAN = (averaged: number): number => (1 - 2 / (9 * averaged)) ** 3;
/** Under a Hann window a line is spread over half again as many values. */
const WIDE = 1.5;

/** Chance that the mean of so many powers of noise is so far above its own mean. */
function beyond(power: number, averaged: number): number {
  const x = power * averaged;
  let [term, sum] = [1, 1];
  for (let k = 1; k < averaged; k += 1) {
    term *= x / k;
    sum += term;
  }
  return Math.exp(-x) * sum;
}

/** The highest value within half the resolution of an order. */
function peakNear({ over, step, resolution }: OrderSpectrum, order: number): number {
  const from = Math.max(1, Math.floor((order - resolution / 2) / step));
  const to = Math.min(over.length - 1, Math.ceil((order + resolution / 2) / step));
  let most = 0;
  for (let i = from; i <= to; i += 1) most = Math.max(most, over[i]);
  return most;
}

/** What swells once a turn draws its multiples too: nothing else can be told there, nor on the skirt of one. */
function isOfTurn(spectrum: OrderSpectrum, i: number): boolean {
  const { step, resolution, over } = spectrum;
  const apart = Math.abs(i * step - Math.round(i * step));
  if (apart < 0.6 * resolution) return true;
  return apart < 2.3 * resolution && peakNear(spectrum, Math.round(i * step)) > over[i];
}

/** What comes half as often and is stronger draws this with it. */
function isMultiple(spectrum: OrderSpectrum, i: number): boolean {
  const half = (i * spectrum.step) / 2;
  return half > 2 * spectrum.resolution && peakNear(spectrum, half) > spectrum.over[i];
}

/**
 * The line of a span that stands out most, its second and third taken with it where the spectrum goes so far.
 * @param spectrum - orders
 * @param line - the span
 * @returns the line and the chance that noise shows as much; null where the spectrum does not reach the span
 * @example lineIn({ step: 0.01, resolution: 0.05, over: new Float64Array(300).fill(1), averaged: 4 }, { family: "turn", from: 5, to: 6 }) // null
 */
export function lineIn(spectrum: OrderSpectrum, { family, from, to }: ExpectedLine): LineFound | null {
  const { over, step, resolution, averaged } = spectrum;
  const first = Math.max(1, Math.ceil(from / step));
  const last = Math.min(over.length - 1, Math.floor(to / step));
  if (last <= first && peakNear(spectrum, from) === 0) return null;
  if (first >= over.length) return null;
  const bias = MEDIAN_OF_MEAN(averaged);
  let best = { order: from, score: -Infinity, over: 1 };
  for (let i = first; i <= Math.max(first, last); i += 1) {
    const order = i * step;
    if (family !== "turn" && (isOfTurn(spectrum, i) || isMultiple(spectrum, i))) continue;
    const own = Math.log(over[i] * bias + 1e-12);
    // What comes so often a turn comes with its multiples; noise does not. A multiple alone is another’s line.
    const twice = 2 * order < over.length * step ? Math.log(peakNear(spectrum, 2 * order) * bias + 1e-12) - 0.7 : 0;
    const score = own + 0.5 * Math.max(0, Math.min(own, twice));
    if (score > best.score) best = { order, score, over: over[i] * bias };
  }
  const tries = Math.max(1, (WIDE * (to - from)) / resolution);
  const each = beyond(Math.exp(best.score), averaged);
  return {
    family,
    order: best.order,
    overDb: 10 * Math.log10(best.over),
    chance: 1 - (1 - Math.min(1, each)) ** tries,
  };
}
