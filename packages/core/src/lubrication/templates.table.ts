import type { AxisConfig } from "../machine/axis";
import type { IntervalRule, LubricationPoint } from "./types";

/** Of which axes a row is: those that have one of what is named; everything where nothing is. */
export interface TemplateFits {
  readonly guideway?: readonly AxisConfig["guideway"][];
  readonly transmission?: readonly AxisConfig["transmission"][];
  /** Only where a counterweight carries what could fall. */
  readonly counterweight?: boolean;
}

/** A row: a point as it is usual, before a shop makes it its own. The letter of the axis is put before the place. */
export type TemplateRow = Pick<
  LubricationPoint,
  "place" | "link" | "way" | "lubricant" | "dose" | "doseUnit" | "minutes" | "weight"
> &
  Partial<Pick<LubricationPoint, "machineOff" | "checks" | "outlets">> & {
    readonly fits?: TemplateFits;
    /** “edge”: the member is brought to where one reaches the point; parked low or blocked where it can fall. */
    readonly access: string;
    /** Days, hours, kilometres of travel; then the least and the most days. Whichever comes first. */
    readonly rule: readonly [IntervalRule["days"], IntervalRule["hours"], IntervalRule["km"], number, number];
  };

/** Intervals, doses and minutes: common practice, no source; each shop learns its own. */
export const TEMPLATE_PROVENANCE = "common practice, no source";

const GREASE = "grease, lithium, NLGI 2";
const LIGHT_OIL = "light oil, ISO VG 32";

/** Points of an axis, by what it is made of. Whole rail length is oiled, the unused ends too. */
// prettier-ignore
export const AXIS_TEMPLATES: readonly TemplateRow[] = [
  {
    fits: { guideway: ["rail"] },
    place: "rail carriages, four", link: "way", way: "nipple", lubricant: GREASE, dose: 4, doseUnit: "strokes", minutes: 8, weight: 3,
    access: "edge", rule: [182, 1500, 100, 60, 365], checks: ["wipers and covers whole"],
  },
  {
    fits: { guideway: ["box", "dovetail"] },
    place: "ways, central system", link: "way", way: "central line", lubricant: "way oil, ISO VG 68", dose: 3, doseUnit: "strokes", minutes: 5, weight: 3,
    access: "the farthest outlet in sight", rule: [30, 300, null, 7, 92], machineOff: false,
    outlets: ["near the pump", "middle", "farthest"], checks: ["farthest outlet wet", "reservoir full"],
  },
  {
    fits: { guideway: ["v-wheel"] },
    place: "wheel tracks and felts", link: "way", way: "wipe", lubricant: LIGHT_OIL, dose: 1, doseUnit: "wipe", minutes: 3, weight: 1,
    access: "edge", rule: [30, 100, null, 7, 92], checks: ["each wheel just turns by hand"],
  },
  {
    fits: { guideway: ["crossed-roller", "ball-cage"] },
    place: "slide and cage", link: "way", way: "drip", lubricant: LIGHT_OIL, dose: 6, doseUnit: "drops", minutes: 4, weight: 2,
    access: "edge", rule: [30, 200, null, 7, 182], checks: ["full travel reached"],
  },
  {
    fits: { transmission: ["rack"] },
    place: "rack and pinion", link: "rack", way: "wipe", lubricant: "gear grease, adhesive", dose: 1, doseUnit: "wipe", minutes: 10, weight: 2,
    access: "brush the teeth clean first", rule: [30, 200, 60, 7, 92], checks: ["teeth clean, no chip"],
  },
  {
    fits: { transmission: ["plain-screw"] },
    place: "lead screw", link: "screw", way: "wipe", lubricant: LIGHT_OIL, dose: 1, doseUnit: "wipe", minutes: 3, weight: 2,
    access: "edge", rule: [30, 100, null, 7, 92],
  },
  {
    fits: { transmission: ["direct", "belt", "rotating-nut"] },
    place: "ball nut", link: "nut", way: "nipple", lubricant: GREASE, dose: 2, doseUnit: "strokes", minutes: 5, weight: 3,
    access: "edge", rule: [182, 1000, 80, 60, 365], checks: ["no metal glitter in the old grease"],
  },
  {
    fits: { transmission: ["direct", "belt", "rotating-nut", "plain-screw"] },
    place: "end bearings", link: "end-bearings", way: "bath", lubricant: "greased for life", dose: 0, doseUnit: "grams", minutes: 2, weight: 1,
    access: "back of the hand on the housing after it has run", rule: [182, null, null, 90, 365], machineOff: false, checks: ["warm, not hot"],
  },
  {
    fits: { counterweight: true },
    place: "counterweight chain", link: "member", way: "wipe", lubricant: "chain oil, ISO VG 100", dose: 1, doseUnit: "wipe", minutes: 5, weight: 2,
    access: "member parked low or blocked; from the ladder", rule: [92, null, null, 30, 365], checks: ["no stiff links, pins in place"],
  },
];

/** Points that every machine has besides its axes. */
// prettier-ignore
export const MACHINE_TEMPLATES: readonly TemplateRow[] = [
  {
    place: "air unit", link: null, way: "bath", lubricant: "air-tool oil, ISO VG 32", dose: 0, doseUnit: "drops", minutes: 3, weight: 2,
    access: "stopped, what air holds parked low or blocked; to fill: air shut off and vented", rule: [14, null, null, 7, 60], machineOff: false,
    checks: ["bowl dry", "oiler filled"],
  },
  {
    place: "drag chain and hoses", link: null, way: "wipe", lubricant: "none, looked at only", dose: 0, doseUnit: "wipe", minutes: 3, weight: 1,
    access: "", rule: [92, null, null, 30, 365], checks: ["no chafed hose", "all links whole"],
  },
  {
    place: "spindle taper and gaskets", link: null, way: "wipe", lubricant: "none, wiped clean and dry", dose: 0, doseUnit: "wipe", minutes: 4, weight: 2,
    access: "tool out", rule: [14, null, null, 7, 60], checks: ["taper clean", "gaskets whole", "collets without cracks"],
  },
];
