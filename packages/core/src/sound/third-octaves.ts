/** A third-octave band. */
export interface ThirdOctave {
  readonly midHz: number;
  readonly fromHz: number;
  readonly toHz: number;
}

/** Octave ratio of base ten. */
const OCTAVE = 10 ** 0.3;

/**
 * Third-octave bands between two frequencies: middles 1000 Hz · G^(x/3), edges a sixth of an octave either side, with
 * G = 10^0.3. Source: IEC 61260-1:2014, 5.2 to 5.5 (from memory).
 * @param fromHz - middle of the lowest is at least this, Hz
 * @param toHz - middle of the highest is at most this, Hz
 * @returns the bands, lowest first
 * @example thirdOctaves(900, 1100)[0].fromHz.toFixed(1) // "891.3"
 */
export function thirdOctaves(fromHz: number, toHz: number): readonly ThirdOctave[] {
  const at = (hz: number): number => (3 * Math.log(hz / 1000)) / Math.log(OCTAVE);
  const bands: ThirdOctave[] = [];
  for (let x = Math.ceil(at(fromHz) - 1e-9); x <= at(toHz) + 1e-9; x += 1) {
    const midHz = 1000 * OCTAVE ** (x / 3);
    bands.push({ midHz, fromHz: midHz * OCTAVE ** (-1 / 6), toHz: midHz * OCTAVE ** (1 / 6) });
  }
  return bands;
}

/**
 * Power of each band from a power spectrum; a bin that lies across an edge is shared.
 * @param power - mean square in each bin, its middle at a multiple of `binHz`
 * @param binHz - width of a bin, Hz
 * @param bands - wanted
 * @returns mean squares
 * @example bandPowers(Float64Array.of(0, 4, 0), 1000, [{ midHz: 1000, fromHz: 500, toHz: 1000 }]) // [2]
 */
export function bandPowers(power: Float64Array, binHz: number, bands: readonly ThirdOctave[]): readonly number[] {
  return bands.map(({ fromHz, toHz }) => {
    let sum = 0;
    const last = Math.min(power.length - 1, Math.ceil(toHz / binHz + 0.5));
    for (let b = Math.max(0, Math.floor(fromHz / binHz - 0.5)); b <= last; b += 1) {
      const low = Math.max(fromHz, (b - 0.5) * binHz);
      const high = Math.min(toHz, (b + 0.5) * binHz);
      if (high > low) sum += (power[b] * (high - low)) / binHz;
    }
    return sum;
  });
}
