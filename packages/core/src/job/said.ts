import { isGravityAxis, memberName, type AxisConfig } from "../machine/axis";
import {
  fastenersOf,
  hasBalance,
  jointAt,
  lifting,
  memberMass,
  type MechanismState,
  type Effect,
  type JointId,
  type JointState,
  type Mass,
} from "../machine/mechanism";
import { bothTorques } from "../quantity";
import type { FindChoice } from "./step-kind";

export const to = (joint: JointId, state: JointState): Effect => ({
  kind: "joint",
  joint,
  to: state,
});
export const made = (id: string): Effect => ({ kind: "note", id });
/** A fastener put to its torque before it is loosened. */
export const tried = (joint: JointId): Effect => made(`tried:${joint}`);

/** Head, table, gantry: as said inside a sentence. */
export const memberOf = (config: AxisConfig): string => memberName(config).toLowerCase();
export const screwOf = (config: AxisConfig): string => (config.transmission === "plain-screw" ? "lead screw" : "screw");
/** Where a new part’s weight is nobody’s note, it is said to be usual. */
export const kgText = ({ kg, noted }: Mass): string => `about ${kg} kg${noted ? "" : " (usual for its size)"}`;
export const weightText = (config: AxisConfig): string => kgText(memberMass(config));

export const gravity = isGravityAxis;
export const balanced = hasBalance;

/** The lock of the bearing nut, as this axis has it. */
export const isTab = (config: AxisConfig): boolean => config.lockNut === "double-nut-tab";

/**
 * How the fixed end’s nut is called here.
 * @param config - the axis’ configuration
 * @returns the name
 * @example nutText(defaultAxis("vertical-centre", "X")).length > 3 // true
 */
export function nutText(config: AxisConfig): string {
  if (config.mechanics.fixedEnd === "pillow-block") return "collars";
  return isTab(config) ? "bearing nuts" : "bearing nut";
}

/**
 * Is the brake without a lever still the only thing that says whether the block carries?
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns whether it is
 * @example easingTriesBlock(defaultAxis("vertical-centre", "X"), WHOLE) // false
 */
export function easingTriesBlock(config: AxisConfig, state: MechanismState): boolean {
  return gravity(config) && state.block === "set";
}

/**
 * Effects of easing a joint of the path: on a blocked gravity axis that is the try of the block.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @param effects - effects of the easing
 * @returns the effects
 * @example eased(defaultAxis("vertical-centre", "X"), WHOLE, []).length // 0
 */
export function eased(config: AxisConfig, state: MechanismState, effects: readonly Effect[]): readonly Effect[] {
  return easingTriesBlock(config, state) ? [...effects, { kind: "block", to: "tried" }] : effects;
}

/**
 * What is added to a step that eases the path over an untried block.
 * @param config - the axis’ configuration
 * @param state - how the axis stands now
 * @returns the sentences
 * @example easingText(defaultAxis("vertical-centre", "X"), WHOLE).length // 0
 */
export function easingText(config: AxisConfig, state: MechanismState): readonly string[] {
  if (!easingTriesBlock(config, state)) return [];
  return [
    `This is the try of the block: an indicator on the ${memberOf(config)}, nobody under it, ease by a hair and watch. More than 0.1 mm: tighten again, locks off, set the block anew.`,
  ];
}

/**
 * Fastener by fastener: what it is, how tight, by whose word; the machine’s book comes first.
 * @param config - the axis’ configuration
 * @param joint - the joint
 * @returns the sentence
 * @example torqueOf(defaultAxis("vertical-centre", "X"), "housing").includes("N·m") // true
 */
export function torqueOf(config: AxisConfig, joint: JointId): string {
  const f = fastenersOf(config).find((x) => x.joint === joint);
  if (!f) return "";
  const what = `${f.count > 1 ? `${f.count} × ` : ""}${f.name}`;
  switch (f.source) {
    case "book":
      return `${what}, ${f.thread}: ${f.torqueNm === null ? "by the machine’s book" : `${bothTorques(f.torqueNm)}, from the machine’s book`}.`;
    case "table":
      return `${what}, ${f.thread} ${f.grade}: the machine’s book; without it ${bothTorques(f.torqueNm ?? 0)} (table for steel, lightly oiled).`;
    case "snug":
      return `${what}, ${f.thread}: snug, short key, two fingers; do not strip.`;
    case "book-only":
      return `${what}: by the machine’s book only. Write down what was used.`;
  }
}

export const isOpen = (state: MechanismState, joint: JointId): boolean => jointAt(state, joint) !== "tight";

export const carriers = (kg: number): 1 | 2 => lifting(kg).people;

export const FASTENER_FINDS: readonly FindChoice[] = [
  { id: "tight", label: "all tight" },
  {
    id: "loose",
    label: "one or more loose",
    offersStop: true,
    say: "Loose fasteners imitate worn parts. Tighten them, close properly what is open and retest before anything is renewed.",
  },
  {
    id: "stripped",
    label: "one turns and does not tighten",
    say: "A stripped thread holds nothing: mend it before this goes back.",
  },
  {
    id: "rusty",
    label: "rust or fretting dust",
    say: "Red dust round a joint: it has been moving. Clean both faces before it goes back.",
  },
];

const BESIDE_SUPPORT = [
  "hub-ease",
  "belt-off",
  "motor-off",
  "nut-back",
  "nut-parted",
  "nut-ease",
  "bracket-loose",
  "light-snug",
  "housing-loosen",
  "housing-ease",
];

/**
 * Only the far end is opened: the member stands near it, and its nut carries the screw’s end.
 * @param sheet - ids of the steps
 * @returns whether it is
 * @example supportAlone(new Set()) // false
 */
export function supportAlone(sheet: ReadonlySet<string>): boolean {
  return sheet.has("far-open") && !BESIDE_SUPPORT.some((id) => sheet.has(id));
}
