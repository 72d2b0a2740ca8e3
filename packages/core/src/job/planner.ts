import type { AxisConfig } from "../machine/axis";
import { startState, WHOLE, type MachineState } from "../machine/mechanism";
import { auditSheet } from "./audit";
import { kitOf } from "./kit";
import type { AxisWork } from "./axis-work";
import type { JobKindId, JobOptions, PlannedStep } from "./step-kind";
import type { JointId } from "../machine/mechanism";
import { Walk, NoWay } from "./walk";

export interface JobAxis {
  readonly letter: string;
  readonly config: AxisConfig;
}

export interface JobItem {
  readonly letter: string;
  readonly kind: JobKindId;
  /** Joints whose fasteners the case found loose. */
  readonly loose?: readonly JointId[];
}

export interface JobRequest {
  readonly axes: readonly JobAxis[];
  readonly items: readonly JobItem[];
  readonly options: JobOptions;
  /** How the machine stands: a sheet planned anew in the middle of a job. */
  readonly start?: MachineState;
  /** Steps of the work itself that are done and not done twice: `Z:bearing-out`. */
  readonly done?: ReadonlySet<string>;
}

/** A sheet: the axes as they were when it was planned, how it found them, and its steps. */
export interface JobPlan {
  readonly axes: readonly JobAxis[];
  readonly start: MachineState;
  readonly steps: readonly PlannedStep[];
}

/**
 * The sheet of a job. Chooses the steps the work needs ({@link selectSteps}), walks them in the order
 * of the trade, and before each makes true what it needs of the mechanism: the power, the place of the
 * member (by screw, by hand, on gear, by jog), a block that is tried. Words, state line, tools and
 * people come from the step in the state in which it is met. The sheet is audited before it is handed
 * out ({@link auditSheet}).
 * @param request - axes, work and options
 * @returns the sheet
 * @throws NoWay where a need cannot be made true in this state, or no safe sheet is found
 * @example planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps.length > 4 // true
 */
export function planJob(request: JobRequest): JobPlan {
  const letters = request.axes.map((a) => a.letter);
  const start = request.start ?? startState(letters);
  const works = request.axes.map((a): AxisWork => {
    const items = request.items.filter((i) => i.letter === a.letter);
    const done = [...(request.done ?? [])].filter((id) => id.startsWith(`${a.letter}:`));
    return {
      ...a,
      kinds: items.map((i) => i.kind),
      loose: items.flatMap((i) => i.loose ?? []),
      options: request.options,
      start: request.start ? start.axes[a.letter] : WHOLE,
      power: start.power,
      done: new Set(done.map((id) => id.slice(a.letter.length + 1))),
    };
  });
  const plan: JobPlan = {
    axes: request.axes,
    start,
    steps: new Walk(start, works).run(),
  };
  return audited(plan);
}

/** A sheet that its audit does not take is not handed out: nobody is to work it. */
function audited(plan: JobPlan): JobPlan {
  const [fault] = auditSheet({ ...plan, kit: kitOf(plan) });
  if (!fault) return plan;
  const step = plan.steps.find((s) => s.id === fault.step);
  throw new NoWay(
    `There is no safe sheet for this from here: “${step?.title ?? fault.step}” ${fault.message}. Finish and close what is open first.`,
  );
}
