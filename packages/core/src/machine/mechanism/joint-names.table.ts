import type { LinkId } from "../axis";
import type { JointId } from "./joints";

/** What a joint is called, and what is said of it while it is snug, loose or off. */
// prettier-ignore
export const JOINT_NAMES: Readonly<Record<JointId, { readonly name: string; readonly snug: string; readonly loose: string; readonly off: string }>> = {
  "motor": { name: "motor", snug: "motor snug", loose: "motor loose", off: "motor off" },
  "hub-motor": { name: "coupling hub on the motor", snug: "motor hub snug", loose: "motor hub loose", off: "motor hub off" },
  "hub-screw": { name: "coupling hub on the screw", snug: "coupling snug", loose: "coupling loose", off: "hub off the screw" },
  "belt": { name: "belt", snug: "belt slack", loose: "belt slack", off: "belt off" },
  "mesh": { name: "pinion in the rack", snug: "pinion at a paper’s play", loose: "pinion clear of the rack", off: "pinion clear of the rack" },
  "pinion": { name: "pinion", snug: "pinion snug", loose: "pinion loose", off: "pinion off" },
  "rack": { name: "rack", snug: "rack snug", loose: "rack loose near the spot", off: "rack off" },
  "retainer": { name: "retainer", snug: "retainer snug", loose: "retainer loose", off: "retainer off" },
  "nut-lock": { name: "lock of the bearing nut", snug: "nut’s lock open", loose: "nut’s lock open", off: "nut’s lock out" },
  "bearing-nut": { name: "bearing nut", snug: "bearing nut hand-tight", loose: "bearing nut backed off", off: "bearing nut off" },
  "spacer": { name: "spacer", snug: "spacer out", loose: "spacer out", off: "spacer out" },
  "housing": { name: "bearing housing", snug: "housing snug", loose: "housing loose", off: "housing off" },
  "pins": { name: "housing pins", snug: "pins out", loose: "pins out", off: "pins out" },
  "shims": { name: "housing shims", snug: "shims out", loose: "shims out", off: "shims out" },
  "bearings": { name: "bearing set", snug: "bearings out", loose: "bearings out", off: "bearings out" },
  "far-nut": { name: "support nut", snug: "support nut hand-tight", loose: "support nut loose", off: "support nut off" },
  "far-support": { name: "far support", snug: "far support snug", loose: "far support loose", off: "far support off" },
  "far-bearing": { name: "support bearing", snug: "support bearing off", loose: "support bearing off", off: "support bearing off" },
  "screw": { name: "screw", snug: "screw out", loose: "screw out", off: "screw out" },
  "screw-clamps": { name: "screw clamps", snug: "screw clamps snug", loose: "screw clamps loose", off: "screw clamps off" },
  "balls": { name: "nut on its screw", snug: "nut off its screw", loose: "nut off its screw", off: "nut off its screw" },
  "nut-bracket": { name: "nut in its bracket", snug: "nut snug in its bracket", loose: "nut loose in its bracket", off: "nut parted" },
  "bracket-member": { name: "nut bracket", snug: "bracket snug", loose: "bracket loose", off: "bracket off" },
  "nut-flange": { name: "nut housing", snug: "nut housing snug", loose: "nut housing loose", off: "nut housing off" },
  "antibacklash": { name: "anti-backlash nut", snug: "anti-backlash nut loose", loose: "anti-backlash nut loose", off: "anti-backlash nut off" },
  "balance-link": { name: "chain or rod of the balance", snug: "balance unhooked", loose: "balance unhooked", off: "balance unhooked" },
  "lube-line": { name: "lubrication line", snug: "lubrication line off", loose: "lubrication line off", off: "lubrication line off" },
  "gib": { name: "gib", snug: "gib eased", loose: "gib eased", off: "gib out" },
  "carriages": { name: "rail carriages", snug: "a carriage loose", loose: "a carriage loose", off: "a carriage off" },
  "v-wheels": { name: "V-wheels", snug: "a wheel eased", loose: "a wheel eased", off: "a wheel off" },
  "cage": { name: "cage slide", snug: "cage preload relieved", loose: "cage preload relieved", off: "cage out" },
  "home-switch": { name: "home switch", snug: "home switch off", loose: "home switch off", off: "home switch off" },
  "head": { name: "head on its column", snug: "head bolts eased", loose: "head bolts eased", off: "head off" },
  "column": { name: "column on its base", snug: "column bolts eased", loose: "column bolts eased", off: "column off" },
  "panel": { name: "panel before the coupling", snug: "panel off", loose: "panel off", off: "panel off" },
  "covers": { name: "covers", snug: "covers off", loose: "covers off", off: "covers off" },
  "bumper": { name: "bumper", snug: "bumper off", loose: "bumper off", off: "bumper off" },
  "table": { name: "table", snug: "table off", loose: "table off", off: "table off" },
};

/** Where the member is asked to stand. */
// prettier-ignore
export const PLACE_NAMES = {
  "anywhere": "where it is",
  "opening": "to where its clamp screw faces you",
  "near-fixed": "near the fixed end",
  "near-far": "near the far end",
  "middle": "half way",
} as const;

/** The link of the drive chain that a joint belongs to; what stands in the way belongs to none. */
// prettier-ignore
export const LINK_OF_JOINT: Readonly<Partial<Record<JointId, LinkId>>> = {
  "motor": "motor", "hub-motor": "coupling", "hub-screw": "coupling", "belt": "belt", "mesh": "pinion", "pinion": "pinion", "rack": "rack",
  "retainer": "end-bearings", "nut-lock": "end-bearings", "bearing-nut": "end-bearings", "spacer": "end-bearings", "housing": "end-bearings", "pins": "end-bearings", "shims": "end-bearings", "bearings": "end-bearings",
  "far-nut": "screw", "far-support": "screw", "far-bearing": "screw", "screw": "screw", "screw-clamps": "screw", "balls": "nut", "antibacklash": "nut", "lube-line": "nut",
  "nut-bracket": "bracket", "bracket-member": "bracket", "nut-flange": "nut-bearings", "balance-link": "member", "head": "member", "column": "member",
  "gib": "way", "carriages": "way", "v-wheels": "way", "cage": "way",
};
