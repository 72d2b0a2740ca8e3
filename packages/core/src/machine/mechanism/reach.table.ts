import type { JointId, JointState } from "./joints";

/** What must stand open, and what must stand shut, before a joint is brought to a state. */
export interface ReachRow {
  readonly joint: JointId;
  readonly to: readonly JointState[];
  /** At least so far undone. */
  readonly open?: Readonly<Partial<Record<JointId, JointState>>>;
  /** At most so far undone. */
  readonly shut?: Readonly<Partial<Record<JointId, JointState>>>;
  /** Only where the fixed end or the drive is so. */
  readonly only?: "coupled" | "belted" | "turning" | "rotating" | "rack" | "housing";
}

/**
 * The order of undoing and of putting back, joint by joint: what hides what, what holds what (common
 * practice, no source). What an axis does not have is passed over.
 */
// prettier-ignore
export const REACH_ROWS: readonly ReachRow[] = [
  // In the way.
  { joint: "bumper", to: ["off", "tight"], open: { covers: "off" } },
  { joint: "hub-screw", to: ["loose", "off", "snug", "tight"], open: { panel: "off", covers: "off" } },
  { joint: "hub-motor", to: ["loose", "off", "snug", "tight"], open: { motor: "off" } },
  { joint: "belt", to: ["loose", "off", "tight"], open: { covers: "off" } },
  // From the motor inwards.
  { joint: "motor", to: ["off"], open: { "hub-screw": "loose" }, only: "coupled" },
  { joint: "hub-screw", to: ["off"], open: { "hub-screw": "loose", motor: "off" } },
  { joint: "bearing-nut", to: ["off"], open: { "bearing-nut": "loose" } },
  { joint: "nut-lock", to: ["loose"], open: { motor: "off", "hub-screw": "off" }, only: "coupled" },
  { joint: "nut-lock", to: ["loose"], open: { belt: "off" }, only: "belted" },
  { joint: "bearing-nut", to: ["loose", "off", "snug", "tight"], open: { motor: "off", "hub-screw": "off", "nut-lock": "loose", covers: "off" }, only: "coupled" },
  { joint: "bearing-nut", to: ["loose", "off", "snug", "tight"], open: { belt: "off", "nut-lock": "loose", covers: "off" }, only: "belted" },
  { joint: "retainer", to: ["loose", "off", "snug", "tight"], open: { motor: "off", "hub-screw": "off", covers: "off" }, only: "coupled" },
  { joint: "retainer", to: ["loose", "off", "snug", "tight"], open: { belt: "off", covers: "off" }, only: "belted" },
  { joint: "spacer", to: ["off", "tight"], open: { "bearing-nut": "off" } },
  { joint: "housing", to: ["loose", "off", "snug", "tight"], open: { covers: "off", bumper: "off" } },
  { joint: "housing", to: ["off"], open: { housing: "loose", motor: "off", "bearing-nut": "off", pins: "off", shims: "off", "far-nut": "loose" }, only: "coupled" },
  { joint: "housing", to: ["off"], open: { housing: "loose", belt: "off", "bearing-nut": "off", pins: "off", shims: "off", "far-nut": "loose" }, only: "belted" },
  { joint: "pins", to: ["off"], open: { housing: "loose" } },
  { joint: "shims", to: ["off"], open: { housing: "loose" } },
  { joint: "bearings", to: ["off"], open: { "bearing-nut": "off", retainer: "off", spacer: "off", housing: "off" }, only: "turning" },
  { joint: "bearings", to: ["off"], open: { "bearing-nut": "off", retainer: "off", "nut-flange": "off" }, only: "rotating" },
  // Far end, nut and screw.
  { joint: "far-nut", to: ["loose", "off", "snug", "tight"], open: { covers: "off" } },
  { joint: "far-support", to: ["loose", "off", "snug", "tight"], open: { covers: "off" } },
  { joint: "far-support", to: ["off"], open: { "far-support": "snug", "far-nut": "off" } },
  { joint: "far-nut", to: ["off"], open: { "far-nut": "loose" } },
  { joint: "far-bearing", to: ["off"], open: { "far-nut": "off", "far-support": "off" } },
  { joint: "nut-bracket", to: ["snug", "loose", "off", "tight"], open: { covers: "off", table: "off" } },
  { joint: "nut-bracket", to: ["off"], open: { "nut-bracket": "snug", "lube-line": "off" } },
  { joint: "bracket-member", to: ["snug", "loose", "off", "tight"], open: { covers: "off", table: "off" } },
  { joint: "lube-line", to: ["off", "tight"], open: { covers: "off", table: "off" } },
  { joint: "antibacklash", to: ["loose", "tight"], open: { covers: "off", table: "off" } },
  { joint: "nut-flange", to: ["loose", "off", "snug", "tight"], open: { covers: "off", belt: "off" } },
  { joint: "nut-flange", to: ["off"], open: { "lube-line": "off" } },
  { joint: "screw-clamps", to: ["loose", "off", "snug", "tight"], open: { covers: "off" } },
  { joint: "screw", to: ["off"], open: { "hub-screw": "off", belt: "off", housing: "off", "far-support": "off", "nut-bracket": "off", "lube-line": "off" }, only: "turning" },
  { joint: "screw", to: ["off"], open: { "screw-clamps": "off", "nut-flange": "off", "lube-line": "off" }, only: "rotating" },
  { joint: "balls", to: ["off", "tight"], open: { screw: "off" } },
  // Guideway, rack, switch, head.
  { joint: "gib", to: ["loose", "tight"], open: { covers: "off" } },
  { joint: "carriages", to: ["loose", "off", "tight"], open: { covers: "off" } },
  { joint: "cage", to: ["loose", "tight"], open: { covers: "off" } },
  { joint: "home-switch", to: ["off", "tight"], open: { covers: "off" } },
  { joint: "pinion", to: ["loose", "off", "tight"], open: { mesh: "loose" } },
  // Putting back: what must be in before.
  { joint: "bearings", to: ["tight"], open: { retainer: "off", "bearing-nut": "off" } },
  { joint: "retainer", to: ["snug", "tight"], shut: { bearings: "tight" } },
  { joint: "housing", to: ["snug", "tight"], shut: { bearings: "tight", screw: "tight" } },
  { joint: "pins", to: ["tight"], shut: { housing: "loose" }, open: { shims: "off" } },
  { joint: "shims", to: ["tight"], shut: { housing: "loose", pins: "tight" } },
  { joint: "housing", to: ["tight"], shut: { pins: "tight", shims: "tight" } },
  { joint: "spacer", to: ["tight"], shut: { bearings: "tight", housing: "snug" } },
  { joint: "bearing-nut", to: ["snug", "tight"], shut: { bearings: "tight", spacer: "tight", housing: "snug" } },
  { joint: "bearing-nut", to: ["tight"], shut: { retainer: "tight" } },
  { joint: "nut-lock", to: ["tight"], shut: { "bearing-nut": "tight" } },
  { joint: "far-bearing", to: ["tight"], shut: { screw: "tight" } },
  { joint: "far-support", to: ["snug", "tight"], shut: { "far-bearing": "tight", screw: "tight" } },
  { joint: "far-nut", to: ["snug", "tight"], shut: { "far-bearing": "tight", "far-support": "snug", "bearing-nut": "tight" } },
  { joint: "screw", to: ["tight"], shut: { balls: "tight" }, open: { housing: "off", "far-support": "off" }, only: "turning" },
  { joint: "screw", to: ["tight"], shut: { balls: "tight" }, only: "rotating" },
  { joint: "screw-clamps", to: ["snug", "tight"], shut: { screw: "tight" } },
  { joint: "nut-bracket", to: ["snug", "tight"], shut: { screw: "tight", balls: "tight", "bracket-member": "snug" } },
  { joint: "nut-flange", to: ["snug", "tight"], shut: { bearings: "tight", screw: "tight" } },
  { joint: "hub-screw", to: ["snug", "tight"], shut: { "bearing-nut": "tight" } },
  { joint: "hub-screw", to: ["tight"], shut: { motor: "tight" } },
  { joint: "hub-motor", to: ["snug", "tight"], open: { motor: "off" } },
  { joint: "motor", to: ["snug", "tight"], shut: { "hub-motor": "tight", "hub-screw": "loose", housing: "tight" }, only: "coupled" },
  { joint: "belt", to: ["tight"], shut: { motor: "tight", "bearing-nut": "tight", "nut-flange": "tight" } },
  { joint: "bumper", to: ["tight"], shut: { housing: "tight", motor: "tight" } },
  { joint: "mesh", to: ["tight"], shut: { pinion: "tight" } },
  { joint: "covers", to: ["tight"], shut: { bumper: "tight", "hub-screw": "tight", belt: "tight", housing: "tight", "nut-lock": "tight", "far-support": "tight", "nut-bracket": "tight", "lube-line": "tight", gib: "tight", carriages: "tight", cage: "tight", "home-switch": "tight", antibacklash: "tight", motor: "tight", table: "tight" } },
  { joint: "panel", to: ["tight"], shut: { "hub-screw": "tight", motor: "tight", "nut-lock": "tight" } },
  { joint: "table", to: ["tight"], shut: { "nut-bracket": "tight", "bracket-member": "tight", "lube-line": "tight", gib: "tight" } },
];
