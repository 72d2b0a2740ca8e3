/** Half length of the kernel in samples of the slower side, and how it falls off: aliasing stays 70 dB under. */
const HALF = 16;
const BETA = 7.86;
/** Steps of the kernel's table between two samples. */
const FINE = 2048;

/** Modified Bessel function of the first kind, order 0 (its series). */
function bessel0(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; k < 40; k += 1) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

let table: Float64Array | undefined;
/** A sinc under a Kaiser window, once on its positive side. */
function kernel(): Float64Array {
  table ??= Float64Array.from({ length: HALF * FINE + 1 }, (_, i) => {
    const x = i / FINE;
    const sinc = i === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
    return (sinc * bessel0(BETA * Math.sqrt(Math.max(0, 1 - (x / HALF) ** 2)))) / bessel0(BETA);
  });
  return table;
}

/**
 * A signal at other instants: a sinc under a Kaiser window (Kaiser 1974, from memory), widened where the new instants
 * stand further apart than the old, so that nothing folds over.
 * @param signal - samples at 0, 1, 2 …
 * @param positions - instants wanted, in samples; evenly apart, or nearly
 * @returns a value for each
 * @example resample(Float64Array.of(0, 0, 1, 0, 0), Float64Array.of(2))[0] // 1
 */
export function resample(signal: Float64Array, positions: Float64Array): Float64Array {
  const fine = kernel();
  const n = positions.length;
  const apart = n > 1 ? Math.abs(positions[n - 1] - positions[0]) / (n - 1) : 1;
  // The transition lies below the new Nyquist frequency.
  const squeeze = apart > 1 ? 0.84 / apart : 1;
  const reach = HALF / squeeze;
  const out = new Float64Array(n);
  for (let j = 0; j < n; j += 1) {
    const centre = positions[j];
    const from = Math.max(0, Math.ceil(centre - reach));
    const to = Math.min(signal.length - 1, Math.floor(centre + reach));
    let [sum, weight] = [0, 0];
    for (let i = from; i <= to; i += 1) {
      const w = fine[Math.round(Math.abs(i - centre) * squeeze * FINE)];
      sum += w * signal[i];
      weight += w;
    }
    out[j] = weight !== 0 ? sum / weight : 0;
  }
  return out;
}
