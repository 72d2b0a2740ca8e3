import type { UnitSystem } from "../../quantity";
import type { AxisConfig, LossLimits } from "./config";

type Driven = Pick<AxisConfig, "transmission" | "feedback" | "nut" | "motor">;

interface UsualRow {
  readonly fits: (axis: Driven) => boolean;
  readonly why: string;
  /** Leave up to, repair above: in millimetres, and in inches as a shop says them. */
  readonly mm: readonly [number, number];
  readonly inch: readonly [number, number];
}

/** What is usual by how the axis is driven and read; the first that fits (common practice, no source). */
const USUAL: readonly UsualRow[] = [
  {
    fits: (a) => a.transmission === "rack",
    why: "usual for a rack drive",
    mm: [0.08, 0.12],
    inch: [0.003, 0.005],
  },
  {
    fits: (a) => a.transmission === "plain-screw",
    why: "usual for a plain screw",
    mm: [0.1, 0.15],
    inch: [0.004, 0.006],
  },
  {
    fits: (a) => a.feedback === "open-loop" || a.motor === "stepper",
    why: "usual for a stepper without feedback",
    mm: [0.035, 0.06],
    inch: [0.0015, 0.0025],
  },
  {
    fits: (a) => a.nut === "single-clearance",
    why: "usual for a single nut with clearance",
    mm: [0.035, 0.06],
    inch: [0.0015, 0.0025],
  },
  {
    fits: () => true,
    why: "",
    mm: [0.01, 0.025],
    inch: [0.0005, 0.001],
  },
];

const MM_PER_INCH = 25.4;

/**
 * Usual limits of lost motion for an axis, by its drive and feedback.
 * @param axis - drive and feedback of the axis
 * @param system - units the limits are set in: a thou is a thou, not 25 µm
 * @returns limits, mm, marked as the defaults
 * @example usualLimits(defaultAxis("router", "X"), "metric").repairMm // 0.12
 */
export function usualLimits(axis: Driven, system: UnitSystem = "metric"): LossLimits {
  const row = USUAL.find((r) => r.fits(axis)) as UsualRow;
  const [leaveMm, repairMm] = system === "metric" ? row.mm : row.inch.map((v) => v * MM_PER_INCH);
  return { leaveMm, repairMm, setBy: row.why ? "default" : "", why: row.why };
}

/** The drive of a machining centre: its limits are everybody’s until somebody sets others. */
const GENERAL: Driven = {
  transmission: "direct",
  feedback: "encoder",
  nut: "double",
  motor: "servo",
};

/**
 * Are these limits that nobody chose: the usual ones of this axis or the general ones, in whichever
 * units?
 * @param axis - the axis’ configuration
 * @returns whether nobody chose them
 * @example limitsAreUsual(defaultAxis("vertical-centre", "X")) // true
 */
export function limitsAreUsual(axis: Driven & Pick<AxisConfig, "limits">): boolean {
  const same = (a: number, b: number): boolean => Math.abs(a - b) < 1e-9;
  return [axis, GENERAL].some((drive) =>
    (["metric", "inch"] as const).some((system) => {
      const usual = usualLimits(drive, system);
      return same(usual.leaveMm, axis.limits.leaveMm) && same(usual.repairMm, axis.limits.repairMm);
    }),
  );
}

/**
 * An axis after a change of its drive: limits that were the usual ones follow it, limits that
 * somebody chose stay.
 * @param before - the axis as it was
 * @param after - the axis as it is now
 * @param system - units the limits are set in
 * @returns the axis, its limits following where they may
 * @example withUsualLimits(defaultAxis("vertical-centre", "X"), defaultAxis("vertical-centre", "X"), "metric").letter // 'X'
 */
export function withUsualLimits(before: AxisConfig, after: AxisConfig, system: UnitSystem): AxisConfig {
  const { leaveMm, repairMm } = before.limits;
  const touched = after.limits.leaveMm !== leaveMm || after.limits.repairMm !== repairMm;
  if (touched || !limitsAreUsual(before)) return after;
  const now = usualLimits(after, system);
  const was = usualLimits(before, system);
  if (now.leaveMm === was.leaveMm && now.repairMm === was.repairMm) return after;
  return { ...after, limits: now };
}
