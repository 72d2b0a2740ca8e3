/**
 * What each number of a machine and an axis can be, and what it usually is.
 * Typical ranges are common practice, no source. `why` completes "… cannot be: …".
 */
export interface FieldBound {
  readonly label: string;
  readonly unit: "mm" | "mm/min" | "°" | "h" | "money" | "ratio" | "µm" | "kg" | "N·m";
  readonly min: number;
  readonly max: number;
  /** The bound itself is not allowed. */
  readonly exclusiveMin?: boolean;
  readonly typical: readonly [number, number];
  readonly why: string;
}

export const AXIS_BOUNDS = {
  travelMm: {
    label: "Travel",
    unit: "mm",
    min: 0,
    exclusiveMin: true,
    max: 30_000,
    typical: [200, 2000],
    why: "an axis moves its member from one end to the other",
  },
  rapidMmMin: {
    label: "Rapid feed",
    unit: "mm/min",
    min: 0,
    exclusiveMin: true,
    max: 200_000,
    typical: [5000, 40_000],
    why: "it is the fastest the axis traverses",
  },
  tickMm: {
    label: "Smallest jog step",
    unit: "mm",
    min: 0.00001,
    max: 1,
    typical: [0.001, 0.01],
    why: "it is the smallest step the control can jog",
  },
  slantDeg: {
    label: "Slant",
    unit: "°",
    min: 0,
    max: 90,
    typical: [30, 60],
    why: "it is the angle between the axis and the floor",
  },
  ratio: {
    label: "Belt ratio",
    unit: "ratio",
    min: 0,
    exclusiveMin: true,
    max: 100,
    typical: [1, 3],
    why: "it is the motor turns for one turn of what the belt drives",
  },
  pinionDiameterMm: {
    label: "Pinion diameter",
    unit: "mm",
    min: 0,
    exclusiveMin: true,
    max: 500,
    typical: [20, 80],
    why: "the gantry moves by the pinion’s circumference each turn",
  },
  "screw.nominalMm": {
    label: "Nominal diameter",
    unit: "mm",
    min: 0,
    exclusiveMin: true,
    max: 200,
    typical: [16, 63],
    why: "it is the outside of the screw",
  },
  "screw.rootMm": {
    label: "Root diameter",
    unit: "mm",
    min: 0,
    exclusiveMin: true,
    max: 200,
    typical: [13, 57],
    why: "it is the screw at the bottom of the thread",
  },
  "screw.leadMm": {
    label: "Lead",
    unit: "mm",
    min: 0,
    exclusiveMin: true,
    max: 200,
    typical: [4, 20],
    why: "a screw moves the table by its lead each turn",
  },
  "screw.freeLengthMm": {
    label: "Free length",
    unit: "mm",
    min: 0,
    exclusiveMin: true,
    max: 30_000,
    typical: [300, 2500],
    why: "it is the screw between its bearings",
  },
  "limits.leaveMm": {
    label: "Leave it up to",
    unit: "µm",
    min: 0,
    exclusiveMin: true,
    max: 5,
    typical: [0.005, 0.05],
    why: "below it nobody does anything",
  },
  "limits.repairMm": {
    label: "Repair above",
    unit: "µm",
    min: 0,
    exclusiveMin: true,
    max: 5,
    typical: [0.01, 0.15],
    why: "above it the mechanics are repaired first",
  },
  "mechanics.memberKg": {
    label: "Weight of the member",
    unit: "kg",
    min: 0,
    exclusiveMin: true,
    max: 50_000,
    typical: [20, 800],
    why: "it is what falls when the axis is opened",
  },
  "mechanics.motorKg": {
    label: "Weight of the motor",
    unit: "kg",
    min: 0,
    exclusiveMin: true,
    max: 2000,
    typical: [3, 40],
    why: "it is what two hands carry",
  },
  "mechanics.torqueNm": {
    label: "Torque",
    unit: "N·m",
    min: 0,
    exclusiveMin: true,
    max: 5000,
    typical: [3, 200],
    why: "it is what the fastener is tightened to",
  },
  enteredMm: {
    label: "Compensation entered in the control",
    unit: "µm",
    min: 0,
    max: 5,
    typical: [0, 0.02],
    why: "it is what the control adds at each reversal; 0 where none is entered",
  },
  "costs.downtimePerHour": {
    label: "An hour of standing",
    unit: "money",
    min: 0,
    max: 100_000,
    typical: [30, 200],
    why: "it weighs every test against the work not done",
  },
  "costs.bearingSet": {
    label: "End-bearing set",
    unit: "money",
    min: 0,
    max: 1_000_000,
    typical: [150, 800],
    why: "it is the part most often renewed",
  },
  "costs.screw": {
    label: "Screw with nut",
    unit: "money",
    min: 0,
    max: 1_000_000,
    typical: [1200, 9000],
    why: "it is about ten times the bearings",
  },
} as const satisfies Record<string, FieldBound>;

export type AxisBoundPath = keyof typeof AXIS_BOUNDS;

export const MACHINE_BOUNDS = {
  hoursPerWeek: {
    label: "Working hours per week",
    unit: "h",
    min: 0,
    max: 168,
    typical: [20, 120],
    why: "a week has 168 hours",
  },
} as const satisfies Record<string, FieldBound>;

/** What a wrench found on a fastener: less is a screw turned by fingers, more is no fastener of an axis. */
export const FOUND_TORQUE = {
  label: "Torque",
  unit: "N·m",
  min: 0.1,
  max: 2000,
  typical: [3, 200],
  why: "it is what the wrench gave on a fastener of an axis",
} as const satisfies FieldBound;

function withUnit(value: number, unit: FieldBound["unit"]): string {
  if (unit === "money" || unit === "ratio") return String(value);
  if (unit === "µm") return `${Number((value * 1000).toFixed(4))} µm`;
  return unit === "°" ? `${value}°` : `${value} ${unit}`;
}

/**
 * What is wrong with a number, in words, or undefined when nothing is.
 * @param bound - the bound of a field
 * @param value - what was given, in the field’s unit
 * @returns the message, or undefined
 * @example boundMessage(AXIS_BOUNDS['screw.leadMm'], 0)
 * // 'Lead 0 mm cannot be: a screw moves the table by its lead each turn. Typical: 4 to 20 mm.'
 */
export function boundMessage(bound: FieldBound, value: number): string | undefined {
  const tooLow = bound.exclusiveMin ? value <= bound.min : value < bound.min;
  if (Number.isFinite(value) && !tooLow && value <= bound.max) return undefined;
  const [low, high] = bound.typical;
  const typical = `Typical: ${withUnit(low, bound.unit).split(" ")[0]} to ${withUnit(high, bound.unit)}.`;
  if (!Number.isFinite(value)) return `${bound.label} must be a number. ${typical}`;
  const most = value > bound.max ? ` The most taken here is ${withUnit(bound.max, bound.unit)}.` : "";
  return `${bound.label} ${withUnit(value, bound.unit)} cannot be: ${bound.why}.${most} ${typical}`;
}
