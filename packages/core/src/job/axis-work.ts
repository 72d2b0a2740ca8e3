import type { AxisConfig } from "../machine/axis";
import { isBelted, isCoupled, type JointId, type MechanismState, type Power } from "../machine/mechanism";
import type { JobKindId, JobOptions } from "./step-kind";

/** What is asked for on one axis. */
export interface AxisWork {
  readonly letter: string;
  readonly config: AxisConfig;
  readonly kinds: readonly JobKindId[];
  /** Joints whose fasteners the case found loose. */
  readonly loose: readonly JointId[];
  readonly options: JobOptions;
  /** How the axis stands when the sheet begins; whole for a new job. */
  readonly start: MechanismState;
  /** Whether the machine is switched on when the sheet begins. */
  readonly power: Power;
  /** Steps of the work itself that are done and not done twice, by bare id. */
  readonly done: ReadonlySet<string>;
}

/**
 * Screws of the coupling or the belt: what parts motor and drive first.
 * @param config - the axis’ configuration
 * @returns id of the step
 * @example typeof frontStep(defaultAxis("vertical-centre", "X")) // 'string'
 */
export function frontStep(config: AxisConfig): string {
  if (isCoupled(config)) return "hub-ease";
  return isBelted(config) ? "belt-off" : "mesh-clear";
}
