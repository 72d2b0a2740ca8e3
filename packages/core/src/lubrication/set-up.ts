import { isGravityAxis, type AxisConfig, type MachineKind } from "../machine/axis";
import { hasBalance, holdersOf, isHeld, isSelfLocking, startState } from "../machine/mechanism";
import type { HeldBy } from "./types";

export const CENTRALS = ["none", "ways", "ways-and-nuts"] as const;
export const CARRIAGE_WAYS = ["nipple", "none"] as const;
export const NUT_WAYS = ["nipple", "needle", "bead", "parted"] as const;

/** How a machine is lubricated: what its axes alone do not tell. */
export interface LubricationSetUp {
  /** What a central system feeds; it takes the place of the nipples there. */
  readonly central: (typeof CENTRALS)[number];
  /** Rail carriages with a nipple, or without: then their rails are oiled. */
  readonly carriages: (typeof CARRIAGE_WAYS)[number];
  /** How grease comes into a ball nut. */
  readonly nuts: (typeof NUT_WAYS)[number];
  /** A table of fibreboard, which oil swells. */
  readonly board: boolean;
}

/**
 * How a machine of this kind usually is lubricated. Common practice, no source.
 * @param kind - of machine
 * @param axes - configurations of its axes
 * @returns what is asked beforehand, ready to be changed
 * @example usualSetUp("horizontal-borer", [defaultAxis("horizontal-borer", "X")]).central // "ways"
 */
export function usualSetUp(kind: MachineKind, axes: readonly AxisConfig[]): LubricationSetUp {
  const oiled = axes.some((a) => a.guideway === "box" || a.guideway === "dovetail");
  const light = kind === "router" || kind === "engraver" || kind === "bench-mill";
  return {
    central: oiled && !light ? "ways" : "none",
    carriages: "nipple",
    nuts: "nipple",
    board: kind === "router",
  };
}

/**
 * What holds the member of an axis when the machine is off and everything of it is joined: by the mechanism that the
 * job sheets stand on.
 * @param axis - configuration
 * @returns null where it cannot fall; “block” where nothing of its own holds it, “pinned” where its balance can lift it too
 * @example heldWhenOff(defaultAxis("vertical-centre", "X")) // null
 */
export function heldWhenOff(axis: AxisConfig): HeldBy | null {
  if (!isGravityAxis(axis)) return null;
  const { axes } = startState([axis.letter]);
  const state = axes[axis.letter];
  const holders = holdersOf(axis, state, "isolated");
  if (isHeld(axis, state, holders)) return "brake";
  // Held by a thread as soon as somebody has tried that it does not sink.
  if (isSelfLocking(axis)) return "screw";
  // A counterweight or a spring can lift it as well: a block is not enough.
  return hasBalance(axis) ? "pinned" : "block";
}
