import type { AxisConfig, MachineKind } from "../machine/axis";
import type { LubricationSetUp } from "./set-up";
import type { IntervalRule, LubricationPoint } from "./types";

/** Of which axes or machines a row is: those that have one of what is named; everything where nothing is. */
export interface TemplateFits {
  readonly guideway?: readonly AxisConfig["guideway"][];
  readonly transmission?: readonly AxisConfig["transmission"][];
  readonly nut?: readonly AxisConfig["nut"][];
  /** Only where a counterweight carries what could fall. */
  readonly counterweight?: boolean;
  readonly kinds?: readonly MachineKind[];
  readonly central?: readonly LubricationSetUp["central"][];
  readonly carriages?: readonly LubricationSetUp["carriages"][];
  readonly nuts?: readonly LubricationSetUp["nuts"][];
  readonly board?: boolean;
}

/** A row: a point as it is usual, before a shop makes it its own. The letter of the axis is put before the place. */
export type TemplateRow = Pick<
  LubricationPoint,
  "place" | "link" | "way" | "lubricant" | "dose" | "doseUnit" | "minutes" | "weight"
> &
  Partial<Pick<LubricationPoint, "machineOff" | "checks" | "outlets" | "partsNut">> & {
    readonly fits?: TemplateFits;
    /** What is opened and laid under before it can be reached. */
    readonly access: string;
    /** Days, hours, kilometres of travel; then the least and the most days. Whichever comes first. */
    readonly rule: readonly [IntervalRule["days"], IntervalRule["hours"], IntervalRule["km"], number, number];
  };

/** Intervals, doses and minutes: common practice, no source; each shop learns its own. */
export const TEMPLATE_PROVENANCE = "common practice, no source";

const GREASE = "grease, lithium, NLGI 2";
const LIGHT_OIL = "light oil, ISO VG 32";
const WAY_OIL = "way oil, ISO VG 68";
const NONE = "none, looked at only";
/** Drives with a ball nut. */
export const BALL_SCREWS: readonly AxisConfig["transmission"][] = ["direct", "belt", "rotating-nut"];
const OPEN = "covers back, cloth under";
const CENTRES = ["vertical-centre", "horizontal-centre"] as const;
const LIGHT = ["router", "engraver", "bench-mill"] as const;

/** Points of an axis, by what it is made of and how the machine is lubricated. */
// prettier-ignore
export const AXIS_TEMPLATES: readonly TemplateRow[] = [
  {
    fits: { guideway: ["rail"], carriages: ["nipple"], central: ["none"] },
    place: "rail carriages, 1 stroke each", link: "way", way: "nipple", lubricant: GREASE, dose: 4, doseUnit: "strokes", minutes: 8, weight: 3,
    access: OPEN, rule: [182, 1500, 100, 60, 365],
    outlets: ["carriage 1", "carriage 2", "carriage 3", "carriage 4"],
  },
  {
    fits: { guideway: ["rail"], carriages: ["none"], central: ["none"] },
    place: "rails, oiled by a soaked cloth", link: "way", way: "wipe", lubricant: WAY_OIL, dose: 1, doseUnit: "wipe", minutes: 6, weight: 3,
    access: `${OPEN}; the whole length, the unused ends too`, rule: [14, 80, null, 7, 60],
  },
  {
    fits: { guideway: ["rail"], carriages: ["nipple"] },
    place: "rails, a film over the whole length", link: "way", way: "wipe", lubricant: LIGHT_OIL, dose: 1, doseUnit: "wipe", minutes: 4, weight: 1,
    access: `${OPEN}; the unused ends too`, rule: [92, null, null, 30, 182], checks: ["rail: rust, or a line that catches a nail"],
  },
  {
    fits: { guideway: ["rail"], central: ["ways", "ways-and-nuts"] },
    place: "carriages, central system", link: "way", way: "central line", lubricant: WAY_OIL, dose: 3, doseUnit: "strokes", minutes: 5, weight: 3,
    access: "the farthest outlet in sight", rule: [30, 300, null, 7, 92], machineOff: false,
    outlets: ["left rail / front", "left rail / back", "right rail / front", "right rail / back"], checks: ["lines: crushed, weeping or cut"],
  },
  {
    fits: { guideway: ["box", "dovetail"], central: ["ways", "ways-and-nuts"] },
    place: "ways, central system", link: "way", way: "central line", lubricant: WAY_OIL, dose: 3, doseUnit: "strokes", minutes: 5, weight: 3,
    access: "the farthest outlet in sight", rule: [30, 300, null, 7, 92], machineOff: false,
    outlets: ["front way / near", "front way / far", "back way / near", "back way / far"], checks: ["lines: crushed, weeping or cut"],
  },
  {
    fits: { guideway: ["box", "dovetail"], central: ["none"] },
    place: "ways, by the can", link: "way", way: "drip", lubricant: WAY_OIL, dose: 20, doseUnit: "drops", minutes: 4, weight: 3,
    access: "wiped clean first; the whole length, the unused ends too", rule: [7, 40, null, 1, 30], checks: ["wipers: torn, hard or packed"],
  },
  {
    fits: { guideway: ["v-wheel"] },
    place: "wheel tracks and felts", link: "way", way: "wipe", lubricant: LIGHT_OIL, dose: 1, doseUnit: "wipe", minutes: 3, weight: 1,
    access: "for steel wheels; plastic ones run dry: wiped clean only, felts left dry", rule: [30, 100, null, 7, 92], checks: ["each wheel turned by hand: slips or will not turn"],
  },
  {
    fits: { guideway: ["crossed-roller", "ball-cage"] },
    place: "slide and cage", link: "way", way: "drip", lubricant: LIGHT_OIL, dose: 6, doseUnit: "drops", minutes: 4, weight: 2,
    access: "", rule: [30, 200, null, 7, 182], checks: ["full travel: stops short"],
  },
  {
    fits: { transmission: ["rack"] },
    place: "rack and pinion", link: "rack", way: "wipe", lubricant: "gear grease, adhesive", dose: 1, doseUnit: "wipe", minutes: 10, weight: 2,
    access: "brush the teeth clean first, down to their roots", rule: [30, 200, 60, 7, 92], checks: ["teeth: a chip, a broken or a sharp tooth"],
  },
  {
    fits: { transmission: ["plain-screw"] },
    place: "lead screw, the whole length", link: "screw", way: "wipe", lubricant: LIGHT_OIL, dose: 1, doseUnit: "wipe", minutes: 3, weight: 2,
    access: "", rule: [30, 100, null, 7, 92],
  },
  {
    fits: { transmission: ["plain-screw"], nut: ["anti-backlash"] },
    place: "anti-backlash nut", link: "nut", way: "look", lubricant: "none: plastic runs dry; a drop by needle only where its maker says so", dose: 0, doseUnit: "drops", minutes: 2, weight: 1,
    access: "", rule: [92, 200, null, 30, 182], checks: ["halves of the nut: rattle or bind"],
  },
  {
    fits: { transmission: BALL_SCREWS, nuts: ["nipple"], central: ["none", "ways"] },
    place: "ball nut", link: "nut", way: "nipple", lubricant: GREASE, dose: 2, doseUnit: "strokes", minutes: 5, weight: 3,
    access: OPEN, rule: [182, 1000, 80, 60, 365],
  },
  {
    fits: { transmission: BALL_SCREWS, nuts: ["needle"], central: ["none", "ways"] },
    place: "ball nut, by its needle hole", link: "nut", way: "needle hole", lubricant: GREASE, dose: 2, doseUnit: "grams", minutes: 6, weight: 3,
    access: OPEN, rule: [182, 1000, 80, 60, 365],
  },
  {
    fits: { transmission: BALL_SCREWS, nuts: ["bead"], central: ["none", "ways"] },
    place: "ball screw, a bead along it", link: "nut", way: "bead", lubricant: GREASE, dose: 4, doseUnit: "grams", minutes: 12, weight: 3,
    access: OPEN, rule: [92, 500, 40, 30, 182],
  },
  {
    fits: { transmission: BALL_SCREWS, nuts: ["parted"], central: ["none", "ways"] },
    place: "ball nut, parted to reach its nipple", link: "nut", way: "nipple", lubricant: GREASE, dose: 2, doseUnit: "strokes", minutes: 120, weight: 3,
    access: "a job with an alignment", partsNut: true, rule: [365, 2000, 160, 182, 730],
  },
  {
    fits: { transmission: ["direct", "belt", "plain-screw"] },
    place: "end bearings", link: "end-bearings", way: "look", lubricant: "greased for life", dose: 0, doseUnit: "grams", minutes: 2, weight: 1,
    access: "soon after it has run: the back of the hand on the housing", rule: [182, null, null, 90, 365], checks: ["warmth: hot"],
  },
  {
    // Where the nut turns, the screw stands still: it is the nut that runs in bearings.
    fits: { transmission: ["rotating-nut"] },
    place: "bearings of the turning nut", link: "nut-bearings", way: "look", lubricant: "greased for life", dose: 0, doseUnit: "grams", minutes: 2, weight: 2,
    access: "soon after it has run: the back of the hand on the nut housing", rule: [182, null, null, 90, 365], checks: ["warmth: hot"],
  },
  {
    fits: { transmission: ["belt", "rotating-nut"] },
    place: "drive belt", link: "belt", way: "look", lubricant: "none, looked at only: no oil, no grease", dose: 0, doseUnit: "wipe", minutes: 6, weight: 2,
    access: "its cover off", rule: [182, 1500, null, 60, 365], checks: ["belt: cracked, frayed or glazed", "teeth: missing or rounded", "screws of the motor plate: loose"],
  },
  {
    place: "wipers and covers", link: "way", way: "look", lubricant: NONE, dose: 0, doseUnit: "wipe", minutes: 3, weight: 2,
    access: "", rule: [92, null, null, 30, 182], checks: ["wipers: torn, hard or packed", "covers: torn, bent or hanging"],
  },
  {
    fits: { counterweight: true },
    place: "counterweight chain", link: "member", way: "wipe", lubricant: "chain oil, ISO VG 100", dose: 1, doseUnit: "wipe", minutes: 5, weight: 2,
    access: "from the ladder; nobody under the weight", rule: [92, null, null, 30, 365], checks: ["chain: stiff links or a pin that walks"],
  },
];

/** Points that a machine has besides its axes, by its kind. */
// prettier-ignore
export const MACHINE_TEMPLATES: readonly TemplateRow[] = [
  {
    fits: { central: ["ways", "ways-and-nuts"] },
    place: "way oil tank", link: null, way: "bath", lubricant: WAY_OIL, dose: 0, doseUnit: "grams", minutes: 3, weight: 3,
    access: "round its filler wiped clean first", rule: [7, 40, null, 1, 30], machineOff: false, checks: ["level [% of full, at least 25]: low", "strainer: clogged"],
  },
  {
    fits: { kinds: [...CENTRES, "lathe", "horizontal-borer", "router", "other"] },
    place: "air unit", link: null, way: "bath", lubricant: "air-tool oil, ISO VG 32", dose: 0, doseUnit: "drops", minutes: 3, weight: 2,
    access: "stopped, what air holds parked low or blocked; to fill: air shut off and vented", rule: [14, null, null, 7, 60], machineOff: false,
    checks: ["water bowl drained: water in the air", "regulator [bar]: off its mark"],
  },
  {
    fits: { kinds: [...CENTRES, "lathe", "horizontal-borer", "surface-grinder"] },
    place: "chips and coolant where they meet the axes", link: null, way: "look", lubricant: NONE, dose: 0, doseUnit: "wipe", minutes: 5, weight: 2,
    access: "", rule: [30, null, null, 7, 92], checks: ["chips on covers and behind wipers: packed", "coolant on ways or screw: runs where it should not"],
  },
  {
    place: "drag chain and hoses", link: null, way: "look", lubricant: NONE, dose: 0, doseUnit: "wipe", minutes: 3, weight: 1,
    access: "", rule: [92, null, null, 30, 365], checks: ["hoses and cables: chafed", "links: cracked or open"],
  },
  {
    fits: { kinds: [...CENTRES, "horizontal-borer", "router", "bench-mill", "engraver", "other"] },
    place: "spindle taper and tool holders", link: null, way: "clean", lubricant: "none: clean and dry", dose: 0, doseUnit: "wipe", minutes: 4, weight: 2,
    access: "spindle stopped and the tool out before it is switched off", rule: [14, null, null, 7, 60], checks: ["taper: fretted or scored", "gaskets: cracked"],
  },
  {
    fits: { kinds: LIGHT },
    place: "collets", link: null, way: "clean", lubricant: "none: clean and dry", dose: 0, doseUnit: "wipe", minutes: 4, weight: 2,
    access: "out of their nut", rule: [30, 150, null, 7, 92], checks: ["slots of the collets: a hairline crack", "bore: bell-mouthed"],
  },
  {
    fits: { kinds: ["router", "engraver"] },
    place: "spindle brushes", link: null, way: "look", lubricant: NONE, dose: 0, doseUnit: "wipe", minutes: 10, weight: 2,
    access: "unplugged; a spindle without brushes has none", rule: [92, 150, null, 30, 182], checks: ["brush length [mm]: worn to the mark", "commutator: burnt"],
  },
  {
    fits: { kinds: ["router"] },
    place: "vacuum table gasket", link: null, way: "look", lubricant: NONE, dose: 0, doseUnit: "wipe", minutes: 3, weight: 1,
    access: "", rule: [30, null, null, 7, 92], checks: ["gasket: torn or flat", "board: proud or swollen"],
  },
  {
    fits: { kinds: ["lathe"] },
    place: "chuck jaws and body", link: null, way: "nipple", lubricant: "chuck grease", dose: 3, doseUnit: "strokes", minutes: 6, weight: 3,
    access: "nothing clamped, jaws in their middle", rule: [7, 40, null, 1, 30], checks: ["jaws: stick or lift"],
  },
  {
    place: "fans and filters of the cabinet", link: null, way: "look", lubricant: NONE, dose: 0, doseUnit: "wipe", minutes: 6, weight: 2,
    access: "fans heard running before it is switched off; from outside, cabinet stays shut but for who may open it; brush and dry cloth, no vacuum nozzle near electronics", rule: [92, null, null, 14, 182],
    checks: ["filter mats: clogged", "fans: still or loud"],
  },
];

/** Points that drip or run where a board lies under them. */
export const BOARD_CARE = "board covered: oil swells it";
