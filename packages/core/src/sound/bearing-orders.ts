import { requireBound } from "../quantity";

export interface BearingGeometry {
  readonly balls: number;
  readonly ballMm: number;
  readonly pitchMm: number;
  readonly contactDeg: number;
}

/** How often a turn of the shaft the parts of a rolling bearing meet; the outer ring stands. */
export interface BearingOrders {
  readonly cage: number;
  readonly outer: number;
  readonly inner: number;
  /** Turns of a ball; a pit on it meets a ring twice a turn. */
  readonly ball: number;
}

/**
 * Orders of a rolling bearing: cage ½(1 − γ), outer Z/2(1 − γ), inner Z/2(1 + γ), ball D/2d(1 − γ²), with γ = d·cos α/D.
 * Source: kinematics of rolling without slip, as in bearing handbooks (from memory). Slip and a moved contact angle
 * shift them by a few per cent.
 * @param geometry - balls, their diameter, pitch diameter and contact angle
 * @returns orders of the shaft
 * @throws BoundError when the balls do not fit
 * @example bearingOrders({ balls: 9, ballMm: 7.94, pitchMm: 39.04, contactDeg: 0 }).inner // 5.415
 */
export function bearingOrders({ balls, ballMm, pitchMm, contactDeg }: BearingGeometry): BearingOrders {
  requireBound({ balls }, balls >= 3, "at least 3");
  requireBound({ "ball diameter": ballMm }, ballMm > 0 && ballMm < pitchMm, `above 0 and below ${pitchMm} mm`);
  requireBound({ "contact angle": contactDeg }, contactDeg >= 0 && contactDeg < 90, "from 0 to below 90°");
  const ratio = (ballMm * Math.cos((contactDeg * Math.PI) / 180)) / pitchMm;
  const half = balls / 2;
  return {
    cage: (1 - ratio) / 2,
    outer: half * (1 - ratio),
    inner: half * (1 + ratio),
    ball: (pitchMm / (2 * ballMm)) * (1 - ratio * ratio),
  };
}
