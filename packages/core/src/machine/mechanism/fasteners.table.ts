import type { JointId } from "./joints";

/** A set of screws as the table has it. */
export interface FastenerRow {
  readonly joint: JointId;
  readonly name: string;
  readonly place: string;
  readonly count: number;
  /** Against the housing’s screws: one size smaller is −1. */
  readonly step: number;
  readonly locates: readonly JointId[];
  /** Clamp and grub screws: small, in a slotted hub; no figure without the book. */
  readonly bookOnly?: boolean;
  /** Holds sheet metal only: no figure, and none is wanted. */
  readonly snug?: boolean;
}

/** The screws of an axis by the joint they hold (common practice, no source; counts are usual ones). */
// prettier-ignore
export const FASTENER_ROWS: readonly FastenerRow[] = [
  { joint: "hub-motor", name: "coupling clamp screw on the motor shaft", place: "in the hub on the motor shaft", count: 1, step: -2, locates: ["motor"], bookOnly: true },
  { joint: "hub-screw", name: "coupling clamp screw on the screw", place: "in the hub on the screw", count: 1, step: -2, locates: ["bearing-nut"], bookOnly: true },
  { joint: "motor", name: "motor screws", place: "through the motor flange", count: 4, step: 0, locates: [] },
  { joint: "belt", name: "motor plate screws", place: "in the slots of the motor plate", count: 4, step: 0, locates: ["motor"] },
  { joint: "pinion", name: "pinion grub screws", place: "in the pinion’s hub, on the flat", count: 2, step: -2, locates: [], bookOnly: true },
  { joint: "mesh", name: "motor carrier screws", place: "at the carrier that presses the pinion in", count: 4, step: 0, locates: ["motor", "pinion"] },
  { joint: "rack", name: "rack screws", place: "along the rack", count: 6, step: -1, locates: [] },
  { joint: "retainer", name: "retainer screws", place: "in the retainer ring", count: 6, step: -1, locates: ["bearings"] },
  { joint: "nut-lock", name: "bearing nut’s lock", place: "on the bearing nut", count: 1, step: -2, locates: ["bearing-nut"], bookOnly: true },
  { joint: "bearing-nut", name: "bearing nut", place: "on the screw end", count: 1, step: 0, locates: ["bearings", "spacer"], bookOnly: true },
  { joint: "housing", name: "housing screws", place: "around the bearing housing", count: 4, step: 0, locates: ["bearings", "pins", "shims"] },
  { joint: "far-nut", name: "support nut", place: "on the far end of the screw", count: 1, step: 0, locates: ["far-bearing"], bookOnly: true },
  { joint: "far-support", name: "support screws", place: "around the far support", count: 4, step: -1, locates: ["far-bearing"] },
  { joint: "screw-clamps", name: "screw clamp screws", place: "at both ends of the standing screw", count: 8, step: 0, locates: ["screw"] },
  { joint: "nut-bracket", name: "nut screws", place: "through the nut flange", count: 6, step: -1, locates: ["balls", "screw"] },
  { joint: "bracket-member", name: "bracket screws", place: "between bracket and member", count: 4, step: 0, locates: ["nut-bracket"] },
  { joint: "nut-flange", name: "nut housing screws", place: "around the nut housing’s flange", count: 6, step: 0, locates: ["bearings", "balls"] },
  { joint: "antibacklash", name: "jam nut", place: "on the anti-backlash nut", count: 1, step: 0, locates: [], bookOnly: true },
  { joint: "gib", name: "gib adjuster", place: "at the gib’s large end", count: 1, step: 0, locates: [], bookOnly: true },
  { joint: "carriages", name: "screws of each carriage", place: "in each carriage", count: 4, step: -1, locates: [] },
  { joint: "v-wheels", name: "wheel screws", place: "through each wheel", count: 4, step: -1, locates: [], bookOnly: true },
  { joint: "cage", name: "rail clamping screws", place: "along the slide’s rail", count: 6, step: -1, locates: [] },
  { joint: "home-switch", name: "switch screws", place: "at the home switch", count: 2, step: -2, locates: [] },
  { joint: "head", name: "head bolts", place: "around the head’s flange", count: 4, step: 2, locates: [] },
  { joint: "column", name: "column bolts", place: "at the column’s feet", count: 4, step: 2, locates: [] },
  { joint: "bumper", name: "bumper screws", place: "at the bumper", count: 2, step: -1, locates: [] },
  { joint: "table", name: "table stops", place: "at the table’s end", count: 2, step: -1, locates: [] },
  { joint: "covers", name: "cover screws", place: "around the covers", count: 8, step: -2, locates: [], snug: true },
  { joint: "panel", name: "panel screws", place: "in the panel before the coupling", count: 4, step: -2, locates: [], snug: true },
];
