import type { AxisConfig } from "../machine/axis";
import { fastenersOf, JOINT_NAMES, type JointId } from "../machine/mechanism";
import { memberOf, to, tried } from "./said";
import { DRIVE_STEPS } from "./steps-drive.table";
import { BLOCK_AWAY, BLOCK_BACK, GEAR_TAKE } from "./steps-move";
import { SCREW_STEPS } from "./steps-screw.table";
import { SECURE_STEPS } from "./steps-secure.table";
import { WAY_STEPS } from "./steps-way.table";
import type { StepKind } from "./step-kind";

/** Joints that a case can find loose and a hand can tighten. */
const TIGHTENED: readonly JointId[] = [
  "hub-screw",
  "motor",
  "housing",
  "retainer",
  "far-support",
  "nut-bracket",
  "bracket-member",
  "nut-flange",
  "screw-clamps",
];

/** Tightening by name: the sheet names the fasteners that its case found. */
const TIGHTEN_STEPS: readonly StepKind[] = TIGHTENED.map((joint) => ({
  id: `tighten:${joint}`,
  phase: "work",
  hands: "in",
  power: "isolated",
  minutes: 8,
  fits: (config: AxisConfig) => fastenersOf(config).some((f) => f.joint === joint),
  effects: [tried(joint), to(joint, "tight")],
  torques: [joint],
  text: ({ config }) => {
    const f = fastenersOf(config).find((x) => x.joint === joint);
    return {
      title: `${f ? f.name[0].toUpperCase() + f.name.slice(1) : JOINT_NAMES[joint].name}: tried, to torque, marked`,
      why: "The case found them loose: two bolts cost nothing, a screw does.",
      how: [
        `${f?.place ?? ""}: each in the sense of tightening; note which turned, and how far.`,
        "Out one at a time: thread and face clean, locking fluid where the book says so; crosswise to torque.",
        `Mark each with paint; if the ${memberOf(config)} sat askew on them, align it.`,
      ],
      good: "None turns below torque any more.",
    };
  },
  tools: ["torque wrench", "hex keys", "paint marker"],
  consumables: ["thread locking fluid"],
}));

/** Every step of the trade that a sheet can hold, moves apart. */
export const STEP_KINDS: readonly StepKind[] = [
  ...SECURE_STEPS,
  ...DRIVE_STEPS,
  ...SCREW_STEPS,
  ...WAY_STEPS,
  ...TIGHTEN_STEPS,
  GEAR_TAKE,
  BLOCK_AWAY,
  BLOCK_BACK,
];

const BY_ID = new Map(STEP_KINDS.map((k) => [k.id, k]));

/**
 * A step by its bare id.
 * @param id - its bare id
 * @returns the step
 * @throws Error for one that does not exist
 * @example stepKind("isolate").id // 'isolate'
 */
export function stepKind(id: string): StepKind {
  const kind = BY_ID.get(id);
  if (!kind) throw new Error(`no step ${id}`);
  return kind;
}
