/** What an indicator errs by itself, mm. */
export interface OwnErrors {
  /** Largest difference between going in and coming out. */
  readonly hysteresisMm: number;
  /** Largest error of indication over a short reach. */
  readonly calibrationMm: number;
}

/** Fine and coarse instruments of each kind (common practice, no source; near what makers promise). */
const USUAL = {
  lever: { fine: [0.001, 0.002], coarse: [0.003, 0.005] },
  plunger: { fine: [0.001, 0.002], coarse: [0.003, 0.006] },
  digital: { fine: [0.001, 0.002], coarse: [0.003, 0.01] },
} as const;
/** Steps up to this are fine, mm. */
const FINE_MM = 0.0026;

/**
 * Usual errors of an indicator of a kind, to be taken where its calibration says nothing.
 * @param kind - of the indicator
 * @param resolutionMm - display step or division, mm
 * @returns hysteresis and calibration, mm
 * @example usualOwnErrors("digital", 0.001) // { hysteresisMm: 0.001, calibrationMm: 0.002 }
 */
export function usualOwnErrors(kind: keyof typeof USUAL, resolutionMm: number): OwnErrors {
  const row = USUAL[kind][resolutionMm <= FINE_MM ? "fine" : "coarse"];
  return { hysteresisMm: row[0], calibrationMm: row[1] };
}
