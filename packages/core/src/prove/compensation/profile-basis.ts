import type { TargetReadings } from "../../measure/reversal";
import { mean } from "../../quantity";
import { correctionAt, type Correction } from "./correction";
import { growthAt, growthU, type Warmth } from "./carried-temperature";
import { laserPutRight, type LaserAir } from "./air-index";

/** All that a table is made from. */
export interface ProfileBasis {
  /** Deviations by place, mm, run by run. */
  readonly targets: readonly TargetReadings[];
  readonly warmth: Warmth;
  /** Null where the reference is no laser. */
  readonly laser: LaserAir | null;
  /** Expanded uncertainty of the reference along a metre, mm. */
  readonly referenceUPerM: number;
  /** Table that was active while it was read; null where there was none, or it was switched off. */
  readonly old: Correction | null;
  readonly referenceMm: number;
}

/** Deviations at 20 °C of the machine without any table, mm. */
export interface BareTarget extends TargetReadings {
  readonly meanUp: number;
  readonly meanDown: number;
}

/**
 * What the machine itself does: readings at 20 °C, and the table that was active taken out of them.
 * @param basis - readings and what is known of them
 * @returns by place, mm
 * @example
 * const warmth = { carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 11.5, uK: 0 };
 * const targets = [{ positionMm: 100, up: [0.01], down: [0.008] }];
 * bareTargets({ targets, warmth, laser: null, referenceUPerM: 0, old: null, referenceMm: 0 })[0].meanUp // 0.01
 */
export function bareTargets({ targets, warmth, laser, old, referenceMm }: ProfileBasis): readonly BareTarget[] {
  const growth = growthAt(warmth);
  return targets.map(({ positionMm, up, down }) => {
    const length = positionMm - referenceMm;
    const put = growth * length + (laser ? laserPutRight(laser, length) : 0);
    const bare = (values: readonly number[], direction: "+" | "-"): number[] =>
      values.map((v) => v + put - (old ? correctionAt(old, positionMm, direction) : 0));
    const [bareUp, bareDown] = [bare(up, "+"), bare(down, "-")];
    return { positionMm, up: bareUp, down: bareDown, meanUp: mean(bareUp), meanDown: mean(bareDown) };
  });
}

/**
 * Expanded uncertainty of a length from the reference point: temperature and reference together.
 * @param basis - readings and what is known of them
 * @param atMm - place, mm
 * @returns mm, 95 %
 * @example
 * const warmth = { carrierC: 20, referenceC: 20, carrierPerK: 10, referencePerK: 0, uK: 1 };
 * lengthU({ warmth, referenceUPerM: 0, referenceMm: 0 }, 500) // 0.005
 */
export function lengthU(
  { warmth, referenceUPerM, referenceMm }: Pick<ProfileBasis, "warmth" | "referenceUPerM" | "referenceMm">,
  atMm: number,
): number {
  return Math.abs(atMm - referenceMm) * Math.hypot(growthU(warmth), referenceUPerM / 1000);
}

/**
 * Did the machine grow while it was read? Each run’s deviations are laid against the mean of all; a run that grew has a
 * slope. The slopes against the number of the run tell the growth from the first run to the last.
 * @param targets - deviations by place, mm, run by run
 * @returns growth from the first run to the last along a metre, mm, with U; null with fewer than three whole runs
 * @example growthWhileRead([]) // null
 */
export function growthWhileRead(
  targets: readonly TargetReadings[],
): { readonly perMMm: number; readonly uPerMMm: number } | null {
  if (targets.length < 3) return null;
  const runs = Math.min(...targets.map((t) => Math.min(t.up.length, t.down.length)));
  if (runs < 3) return null;
  const centre = mean(targets.map((t) => t.positionMm));
  const spread = targets.reduce((sum, t) => sum + (t.positionMm - centre) ** 2, 0);
  const slopes = Array.from(
    { length: runs },
    (_, run) =>
      targets.reduce((sum, t) => {
        const own = (t.up[run] + t.down[run]) / 2 - (mean(t.up.slice(0, runs)) + mean(t.down.slice(0, runs))) / 2;
        return sum + (t.positionMm - centre) * own;
      }, 0) / spread,
  );
  const middle = (runs - 1) / 2;
  const runSpread = slopes.reduce((sum, _, i) => sum + (i - middle) ** 2, 0);
  const perRun = slopes.reduce((sum, s, i) => sum + (i - middle) * s, 0) / runSpread;
  // What a slope is worth follows from the scatter of the readings themselves, all runs and places together.
  let [squares, dof] = [0, -runs];
  for (const t of targets)
    for (const values of [t.up, t.down]) {
      const m = mean(values);
      squares += values.reduce((sum, v) => sum + (v - m) ** 2, 0);
      dof += values.length - 1;
    }
  const slope = squares / Math.max(1, dof) / (2 * spread);
  const uPerRun = Math.sqrt(slope / runSpread);
  const whole = 1000 * (runs - 1);
  return { perMMm: whole * perRun, uPerMMm: 2 * whole * uPerRun };
}
