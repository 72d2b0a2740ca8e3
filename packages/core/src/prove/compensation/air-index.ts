import { requireBound } from "../../quantity";

/** Air along a laser’s path. */
export interface Air {
  readonly celsius: number;
  readonly hPa: number;
  /** Relative humidity, %. */
  readonly humidity: number;
}

/** Vapour pressure of water over itself, Pa, Magnus form (WMO guide no. 8, from memory). */
function vapourPa(celsius: number): number {
  return 611.2 * Math.exp((17.62 * celsius) / (243.12 + celsius));
}

/**
 * Refractive index of air for the red line of a helium–neon laser, 633 nm: Edlén’s formula as revised by Birch and Downs,
 * Metrologia 30 (1993) 155 and 31 (1994) 315 (from memory).
 * @param air - temperature, pressure, humidity
 * @returns n, about 1.00027
 * @throws BoundError where the air is out of reason
 * @example Math.round(1e8 * (airIndex({ celsius: 20, hPa: 1000, humidity: 0 }) - 1)) // 26824
 */
export function airIndex({ celsius, hPa, humidity }: Air): number {
  requireBound({ "air temperature": celsius }, celsius >= -10 && celsius <= 50, "from -10 to 50 °C");
  requireBound({ "air pressure": hPa }, hPa >= 600 && hPa <= 1100, "from 600 to 1100 hPa");
  requireBound({ humidity }, humidity >= 0 && humidity <= 100, "from 0 to 100 %");
  const s = 1 / 0.632991 ** 2;
  const p = 100 * hPa;
  const standard = 1e-8 * (8342.54 + 2406147 / (130 - s) + 15998 / (38.9 - s));
  const dry = (p * standard * (1 + 1e-8 * (0.601 - 0.00972 * celsius) * p)) / (96095.43 * (1 + 0.003661 * celsius));
  const water = (humidity / 100) * vapourPa(celsius);
  return 1 + dry - water * (3.7345 - 0.0401 * s) * 1e-10;
}

/** What a laser showed, and what it was told of its air. */
export interface LaserAir {
  /** Air when its display was set to zero, and at the end of the readings. */
  readonly first: Air;
  readonly last: Air;
  /** Index of air that the display reckoned with; null where it follows sensors of its own. */
  readonly reckoned: number | null;
  /** From the fixed optic to where the display was set to zero, mm. */
  readonly deadPathMm: number;
}

/**
 * What is added to a length that a laser showed, for its air and its dead path: the display multiplied fringes by the
 * wavelength it reckoned with, and fringes in the dead path moved with the air (any textbook of interferometry).
 * @param air - what is known of it
 * @param lengthMm - shown, from where the display was set to zero, mm
 * @returns mm
 * @example
 * const air = { celsius: 20, hPa: 1000, humidity: 0 };
 * laserPutRight({ first: air, last: air, reckoned: null, deadPathMm: 200 }, 500) // 0
 */
export function laserPutRight({ first, last, reckoned, deadPathMm }: LaserAir, lengthMm: number): number {
  requireBound({ "dead path": deadPathMm }, deadPathMm >= 0 && deadPathMm <= 50_000, "from 0 to 50000 mm");
  const [a, b] = [airIndex(first), airIndex(last)];
  const mean = (a + b) / 2;
  const scale = reckoned === null ? 0 : reckoned / mean - 1;
  // On average over the readings half of what the air changed by has happened.
  return scale * lengthMm - (deadPathMm * (mean - a)) / a;
}
