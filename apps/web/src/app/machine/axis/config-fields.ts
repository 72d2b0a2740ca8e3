import {
  AXIS_BOUNDS,
  BEARING_SETS,
  BRAKE_PLACES,
  COUPLINGS,
  FEEDBACKS,
  FIXED_ENDS,
  FIXINGS,
  FLANGE_SIDES,
  fromMm,
  GUIDEWAYS,
  hasFarEnd,
  hasScrew,
  isCoupled,
  LOCK_NUTS,
  MEMBERS,
  memberMass,
  motorMass,
  MOTORS,
  NUTS,
  ORIENTATIONS,
  SCREW_MAKES,
  screwTurns,
  toMm,
  TRANSMISSIONS,
  usualCosts,
  type AxisBoundPath,
  type AxisConfig,
  type Mass,
  type UnitSystem,
} from "@iron/core";

/** One input of the axis form. The path leads into the configuration. */
export type ConfigField =
  | {
      readonly kind: "number";
      readonly path: AxisBoundPath;
      readonly label: string;
      readonly when?: (c: AxisConfig) => boolean;
      /** May stay empty: what is usual is taken then, and said here. */
      readonly usual?: (c: AxisConfig) => string;
    }
  | {
      readonly kind: "choice";
      readonly path: string;
      readonly label: string;
      readonly options: readonly (readonly [string, string])[];
      readonly when?: (c: AxisConfig) => boolean;
    }
  | {
      readonly kind: "flag";
      readonly path: string;
      readonly label: string;
      readonly when?: (c: AxisConfig) => boolean;
    }
  | {
      readonly kind: "text";
      readonly path: string;
      readonly label: string;
      readonly when?: (c: AxisConfig) => boolean;
    };

export interface FieldGroup {
  readonly title: string;
  readonly fields: readonly ConfigField[];
}

const WORDS: Record<string, string> = {
  encoder: "encoder in the motor only",
  scale: "scale at the table",
  "open-loop": "none, open loop",
  direct: "direct, with a coupling",
  belt: "belt between motor and screw",
  rack: "rack and pinion",
  "rotating-nut": "rotating nut on a fixed screw",
  "plain-screw": "plain lead screw",
  clamp: "clamp hubs",
  insert: "with an elastic insert",
  disc: "disc pack",
  "fixed-free": "fixed, other end free",
  "supported-supported": "supported both ends",
  "fixed-supported": "fixed, other end supported",
  "fixed-fixed": "fixed both ends",
  "single-clearance": "single, with clearance",
  "single-preloaded": "single, preloaded",
  "anti-backlash": "anti-backlash nut",
  "angular-pair": "angular contact, pair",
  "angular-triple": "angular contact, three",
  "angular-quad": "angular contact, four",
  "deep-groove-pair": "deep groove pair",
  "plain-thrust": "thrust washers",
  "clamp-nut": "nut with clamp screw",
  "double-nut-tab": "double nuts, tab washer",
  "retainer-ring": "retainer ring, cap screws",
  box: "box ways, gib",
  dovetail: "dovetail, gib",
  rail: "rail with ball carriages",
  "v-wheel": "V-wheels on extrusion",
  "crossed-roller": "crossed rollers",
  "ball-cage": "ball cage",
  motor: "the motor",
  screw: "the screw",
  pinned: "housing, placed by pins",
  unpinned: "housing, placed by hand",
  "pillow-block": "block with grub screws on the screw",
  fixed: "the fixed end",
  far: "the far end",
};

const options = (values: readonly string[]) => values.map((v) => [v, WORDS[v] ?? v] as const);
const isGravity = (c: AxisConfig): boolean => c.orientation !== "horizontal";
const number = (path: AxisBoundPath, when?: (c: AxisConfig) => boolean): ConfigField => ({
  kind: "number",
  path,
  label: AXIS_BOUNDS[path].label,
  when,
});
const choice = (
  path: string,
  {
    label,
    values,
    when,
  }: { readonly label: string; readonly values: readonly string[]; readonly when?: (c: AxisConfig) => boolean },
): ConfigField => ({
  kind: "choice",
  path,
  label,
  options: options(values),
  when,
});
const flag = (path: string, label: string, when: (c: AxisConfig) => boolean = isGravity): ConfigField => ({
  kind: "flag",
  path,
  label,
  when,
});
/** A weight that nobody noted is taken by size, and said so. */
const weight = (path: "mechanics.memberKg" | "mechanics.motorKg", of: (c: AxisConfig) => Mass): ConfigField => ({
  kind: "number",
  path,
  label: AXIS_BOUNDS[path].label,
  usual: (c) => `usual: about ${of(c).kg} kg`,
});
/** A price that nobody noted is taken by size and kind, and said so. */
const price = (part: "bearingSet" | "screw"): ConfigField => ({
  kind: "number",
  path: `costs.${part}`,
  label: AXIS_BOUNDS[`costs.${part}`].label,
  when: hasScrew,
  usual: (c) => `usual: about ${usualCosts(c)[part]}`,
});
/** Whether a joint can be on this axis at all, whatever is ticked now. */
const brakes = (c: AxisConfig): boolean => c.brake;

const unnoted = (c: AxisConfig): AxisConfig => ({
  ...c,
  mechanics: { ...c.mechanics, memberKg: null, motorKg: null },
});

/** The axis form: groups in the order of the chain. What an axis cannot have is not asked for. */
export const FIELD_GROUPS: readonly FieldGroup[] = [
  {
    title: "The axis",
    fields: [
      { kind: "text", path: "letter", label: "Letter" },
      choice("member", { label: "What it moves", values: MEMBERS }),
      choice("orientation", { label: "Orientation", values: ORIENTATIONS }),
      number("slantDeg", (c) => c.orientation === "slanted"),
      number("travelMm"),
      number("rapidMmMin"),
      number("tickMm"),
      choice("feedback", { label: "Feedback", values: FEEDBACKS }),
      choice("guideway", { label: "Guideway", values: GUIDEWAYS }),
    ],
  },
  {
    title: "What holds it against gravity",
    fields: [
      flag("brake", "Brake"),
      flag("counterweight", "Counterweight"),
      flag("gasSpring", "Gas spring"),
      flag("dragBrake", "Drag brake"),
      flag("mechanics.dragBrakeKnown", "Somebody looked for a drag brake"),
      choice("mechanics.brakeAt", { label: "Brake sits on", values: BRAKE_PLACES, when: brakes }),
      flag("mechanics.brakeLever", "Brake can be let go by a lever or release screws", brakes),
    ],
  },
  {
    title: "Drive",
    fields: [
      choice("motor", { label: "Motor", values: MOTORS }),
      choice("transmission", { label: "Transmission", values: TRANSMISSIONS }),
      choice("coupling", {
        label: "Coupling",
        values: COUPLINGS,
        when: (c) => c.transmission === "direct" || c.transmission === "plain-screw",
      }),
      number("ratio", (c) => c.transmission !== "direct" && c.transmission !== "plain-screw"),
      number("pinionDiameterMm", (c) => c.transmission === "rack"),
    ],
  },
  {
    title: "Screw, nut and end bearings",
    fields: [
      number("screw.nominalMm", hasScrew),
      number("screw.rootMm", hasScrew),
      number("screw.leadMm", hasScrew),
      number("screw.freeLengthMm", hasScrew),
      choice("screw.fixings", { label: "End fixings", values: FIXINGS, when: hasScrew }),
      choice("screw.make", { label: "Made", values: SCREW_MAKES, when: hasScrew }),
      choice("nut", { label: "Nut", values: NUTS, when: hasScrew }),
      choice("bearings", { label: "Bearing set", values: BEARING_SETS, when: hasScrew }),
      choice("lockNut", { label: "Locked by", values: LOCK_NUTS, when: hasScrew }),
    ],
  },
  {
    title: "What holds, moves and can be reached: job sheets follow it",
    fields: [
      weight("mechanics.memberKg", (c) => memberMass(unnoted(c))),
      weight("mechanics.motorKg", (c) => motorMass(unnoted(c))),
      choice("mechanics.fixedEnd", { label: "Fixed end", values: FIXED_ENDS, when: screwTurns }),
      flag("mechanics.farNut", "Far support has a nut of its own", hasFarEnd),
      flag("mechanics.couplingHidden", "Coupling behind a panel", isCoupled),
      flag("mechanics.bumper", "Bumper before the housing", screwTurns),
      choice("mechanics.flangeSide", { label: "Nut’s flange faces", values: FLANGE_SIDES, when: screwTurns }),
      flag("mechanics.flangePasses", "The flange passes the casting", screwTurns),
      flag("mechanics.tableOverNut", "The nut is seen only with the table off", screwTurns),
      flag("mechanics.lubeLine", "Lubrication line on the nut", hasScrew),
      flag("mechanics.column", "The column can be shimmed on its base", () => true),
    ],
  },
  {
    title: "Lost motion: limits, and what the control compensates",
    fields: [
      number("limits.leaveMm"),
      number("limits.repairMm"),
      number("enteredMm"),
      { kind: "text", path: "limits.setBy", label: "Set by" },
      { kind: "text", path: "limits.why", label: "Why" },
    ],
  },
  {
    title: "What it costs",
    fields: [number("costs.downtimePerHour"), price("bearingSet"), price("screw")],
  },
];

export function readPath(config: object, path: string): unknown {
  return path.split(".").reduce<unknown>((at, key) => (at as Record<string, unknown>)[key], config);
}

export function writePath<T extends object>(config: T, path: string, value: unknown): T {
  const [key, ...rest] = path.split(".");
  const at = (config as Record<string, unknown>)[key];
  return {
    ...config,
    [key]: rest.length ? writePath(at as object, rest.join("."), value) : value,
  };
}

/** What stands behind a number, in the user’s units, and how to go there and back. */
export function fieldUnit(
  path: AxisBoundPath,
  system: UnitSystem,
  currency: string,
): { readonly word: string; readonly perMm: number } {
  const { unit } = AXIS_BOUNDS[path];
  const inch = system === "inch";
  switch (unit) {
    case "mm":
      return { word: inch ? "in" : "mm", perMm: inch ? fromMm(1, "in") : 1 };
    case "mm/min":
      return {
        word: inch ? "in/min" : "mm/min",
        perMm: inch ? fromMm(1, "in") : 1,
      };
    case "µm":
      return {
        word: inch ? "tenths" : "µm",
        perMm: inch ? fromMm(1, "tenth") : 1000,
      };
    case "money":
      return { word: currency, perMm: 1 };
    case "°":
    case "kg":
    case "N·m":
      return { word: unit, perMm: 1 };
    default:
      return { word: "", perMm: 1 };
  }
}

/** A kept number as the user reads it. */
export function numberText(value: number, path: AxisBoundPath, system: UnitSystem): string {
  if (!Number.isFinite(value)) return "";
  return String(Number((value * fieldUnit(path, system, "").perMm).toFixed(5)));
}

/** What the user typed as the kept number; NaN when it is none, null where empty means “usual”. */
export function keptNumber(
  field: Extract<ConfigField, { kind: "number" }>,
  text: string,
  system: UnitSystem,
): number | null {
  if (field.usual && text.trim() === "") return null;
  return numberFrom(text, field.path, system);
}

/** What the user typed as the kept number; NaN when it is none. */
export function numberFrom(text: string, path: AxisBoundPath, system: UnitSystem): number {
  const plain = text.trim().replace(",", ".");
  if (!/^-?(?:\d+(?:\.\d*)?|\.\d+)$/.test(plain)) return NaN;
  const { unit } = AXIS_BOUNDS[path];
  const value = Number(plain);
  if (system === "inch" && (unit === "mm" || unit === "mm/min")) return round(toMm(value, "in"));
  if (unit === "µm") return toMm(value, system === "inch" ? "tenth" : "um");
  return value;
}

function round(value: number): number {
  return Math.round(value * 1e7) / 1e7;
}

/** The fields in which two configurations differ, with both values in words. */
export function differences(
  mine: AxisConfig,
  theirs: AxisConfig,
  system: UnitSystem,
): { path: string; label: string; mine: string; theirs: string }[] {
  const said = (field: ConfigField, value: unknown): string => {
    if (field.kind === "number")
      return `${numberText(value as number, field.path, system)} ${fieldUnit(field.path, system, "").word}`.trim();
    if (field.kind === "flag") return value ? "yes" : "no";
    if (field.kind === "choice") return field.options.find(([v]) => v === value)?.[1] ?? String(value);
    return String(value) || "nothing";
  };
  return FIELD_GROUPS.flatMap((g) => g.fields)
    .filter((f) => readPath(mine, f.path) !== readPath(theirs, f.path))
    .map((f) => ({
      path: f.path,
      label: f.label,
      mine: said(f, readPath(mine, f.path)),
      theirs: said(f, readPath(theirs, f.path)),
    }));
}
