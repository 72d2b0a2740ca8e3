import { isGravityAxis, type AxisConfig } from "../machine/axis";
import { hasFarEnd, isBelted, isCoupled, jointsOf, screwTurns, type JointId } from "../machine/mechanism";
import type { JobKindId, JobOptions } from "./step-kind";

/** A kind of job: where it fits, and the steps that are the work itself, before what they bring along. */
export interface JobKind {
  readonly id: JobKindId;
  readonly name: string;
  readonly fits: (axis: AxisConfig) => boolean;
  readonly steps: (axis: AxisConfig, options: JobOptions, wanted: JobWanted) => readonly string[];
  readonly provenance: string;
}

/** What else is asked for on the axis, and what its case found loose. */
export interface JobWanted {
  readonly kinds: ReadonlySet<JobKindId>;
  readonly loose: readonly JointId[];
}

const SOURCE = "common practice, no source";
const has = (a: AxisConfig, joint: JointId): boolean => jointsOf(a).includes(joint);
const far = (a: AxisConfig): string[] => (hasFarEnd(a) ? ["far-ease"] : []);
const insert = (a: AxisConfig, o: JobOptions): string[] =>
  isCoupled(a) && a.coupling === "insert" && o.newInsert ? ["new-insert"] : [];
const farBearing = (a: AxisConfig, o: JobOptions): string[] => (o.farEndToo && hasFarEnd(a) ? ["far-bearing-out"] : []);
const front = (a: AxisConfig): string[] => (isCoupled(a) ? ["hub-ease"] : isBelted(a) ? ["belt-off"] : ["mesh-clear"]);
const feels = (a: AxisConfig): string[] =>
  isGravityAxis(a) && screwTurns(a) && a.transmission !== "plain-screw" ? ["back-drive"] : [];
/** Opened by hand only where it is low-cost and rolled; a ground or preloaded nut goes to a screw shop. */
export const isRebuilt = (a: AxisConfig, o: JobOptions): boolean =>
  o.nutService === "rebuild" && a.screw.make === "rolled" && a.nut === "single-clearance";
const bearings = (a: AxisConfig, o: JobOptions): readonly string[] => [
  "try-end",
  "bearing-out",
  "finger-feel",
  ...feels(a),
  "clean-seat",
  ...insert(a, o),
  ...farBearing(a, o),
];

/** Alignment: one reference stays tight, the rest is snug together. */
function align(a: AxisConfig, wanted: JobWanted): readonly string[] {
  const alone = [...wanted.kinds].every((k) => k === "align-screw" || k === "float-bracket" || k === "gib");
  if (a.mechanics.fixedEnd === "pinned") return ["bracket-loose", ...far(a)];
  return [
    a.mechanics.fixedEnd === "pillow-block" && alone && isCoupled(a) ? "light-snug" : "housing-loosen",
    ...far(a),
  ];
}

/** A gantry by its two sides, a plate by its carriages; neither on a rack that carries no gantry. */
const squaring = (a: AxisConfig): string => (has(a, "rack") ? "square-gantry" : "square-rails");

/** Every kind of job, where it fits and the steps that are the work itself. */
// prettier-ignore
export const JOB_KINDS: readonly JobKind[] = [
  { id: "tighten", name: "Tighten loose fasteners", fits: () => true, steps: (a, _, w) => ["measure-before", ...(w.loose.length ? w.loose.filter((j) => has(a, j)).map((j) => `tighten:${j}`) : ["try-all"]), "retest-chain"], provenance: SOURCE },
  { id: "fixed-bearings", name: "Replace fixed-end bearings", fits: screwTurns, steps: bearings, provenance: SOURCE },
  { id: "support-bearing", name: "Replace support-end bearing", fits: hasFarEnd, steps: () => ["far-bearing-out"], provenance: SOURCE },
  { id: "screw", name: "Replace screw with nut", fits: (a) => has(a, "screw"), steps: (a, o) => ["screw-out", "new-screw", ...(o.newBearings ? (screwTurns(a) ? ["bearing-out", "finger-feel", "clean-seat"] : ["bearing-out", "finger-feel", "clean-seat"]) : []), ...insert(a, o)], provenance: SOURCE },
  { id: "ball-nut", name: "Service the ball nut", fits: (a) => has(a, "balls") && a.transmission !== "plain-screw", steps: (a, o) => o.nutService === "flush" ? ["measure-before", "flush-in-place", "retest-chain"] : isRebuilt(a, o) ? ["screw-out", "nut-from-screw", "service-nut"] : ["screw-out", "send-screw"], provenance: SOURCE },
  { id: "grease-nut", name: "Grease the nut, parted from its bracket", fits: (a) => screwTurns(a), steps: () => ["grease-nut"], provenance: SOURCE },
  { id: "coupling", name: "Replace or reset the coupling", fits: isCoupled, steps: () => ["renew-coupling"], provenance: SOURCE },
  { id: "belt", name: "Renew and tension the belt", fits: isBelted, steps: () => ["belt-new"], provenance: SOURCE },
  { id: "bearing-preload", name: "Reset bearing-nut preload", fits: screwTurns, steps: () => ["try-end", "nut-back"], provenance: SOURCE },
  { id: "align-screw", name: "Align the screw to the ways", fits: screwTurns, steps: (a, _, w) => align(a, w), provenance: SOURCE },
  { id: "float-bracket", name: "Float and refix the nut bracket", fits: screwTurns, steps: (a) => ["bracket-loose", ...far(a)], provenance: SOURCE },
  { id: "nut-bearing", name: "Replace the bearing of the rotating nut", fits: (a) => a.transmission === "rotating-nut", steps: () => ["try-end", "bearing-out", "finger-feel", "clean-seat"], provenance: SOURCE },
  { id: "gib", name: "Set the gib", fits: (a) => has(a, "gib"), steps: (_, o) => ["trace-before", "loosen-gib", o.gib === "rock" ? "set-gib-rock" : "set-gib"], provenance: SOURCE },
  { id: "carriages", name: "Replace rail carriages, one at a time", fits: (a) => has(a, "carriages"), steps: (a) => ["trace-before", ...(isGravityAxis(a) ? [] : front(a)), "hold-load", "carriage-1", "carriage-2", "carriage-3", "carriage-4", "release-load", squaring(a)], provenance: SOURCE },
  { id: "v-wheels", name: "Set the V-wheels", fits: (a) => has(a, "v-wheels"), steps: () => ["trace-before", "loosen-wheels", "set-wheels"], provenance: SOURCE },
  { id: "rack-spot", name: "Free a rack tight spot", fits: (a) => has(a, "rack") && !isGravityAxis(a), steps: (a) => ["trace-before", "find-spot", "loosen-rack", "set-rack", ...(a.brake || a.ratio > 10 ? ["mesh-clear"] : [])], provenance: SOURCE },
  { id: "pinion", name: "Pinion and its screws", fits: (a) => has(a, "pinion"), steps: () => ["pinion-set"], provenance: SOURCE },
  { id: "gantry-square", name: "Square gantry or rails", fits: (a) => (a.member === "gantry" && has(a, "rack")) || (has(a, "carriages") && !has(a, "rack")), steps: (a) => [squaring(a), "retest-pattern"], provenance: SOURCE },
  { id: "cage", name: "Recentre a creeping cage", fits: (a) => has(a, "cage"), steps: (a) => ["trace-before", ...front(a), "relieve-cage", "cage-far", "cage-near", "centre-cage"], provenance: SOURCE },
  { id: "antibacklash", name: "Set the anti-backlash nut", fits: (a) => has(a, "antibacklash"), steps: () => ["loosen-antibacklash", "set-antibacklash"], provenance: SOURCE },
  { id: "home-switch", name: "Renew home switch and cable, set the marker distance", fits: () => true, steps: () => ["switch-off", "switch-on", "marker"], provenance: SOURCE },
  { id: "tram", name: "Shim the head square", fits: (a) => has(a, "head"), steps: () => ["head-loose", "shim-head"], provenance: SOURCE },
  { id: "plumb", name: "Shim the column plumb", fits: (a) => has(a, "column"), steps: () => ["column-loose", "shim-column"], provenance: SOURCE },
];

/** The job that mends a cause of the catalogue. */
// prettier-ignore
export const JOB_OF_CAUSE: Readonly<Record<string, JobKindId>> = {
  "coupling-screw": "tighten", "coupling-insert": "coupling", "coupling-eccentric": "coupling",
  "retainer-loose": "tighten", "nut-preload-lost": "bearing-preload", "end-bearing-worn": "fixed-bearings", "end-bearing-overtight": "bearing-preload", "housing-loose": "tighten", "support-bearing": "support-bearing",
  "screw-worn-middle": "screw", "screw-bent": "screw", "screw-misaligned": "align-screw",
  "nut-worn": "ball-nut", "nut-dirty": "ball-nut", "nut-returns": "ball-nut", "bracket-loose": "float-bracket",
  "antibacklash-tight": "antibacklash", "antibacklash-worn": "antibacklash", "rack-spot": "rack-spot", "pinion-loose": "pinion",
  "gib-tight": "gib", "gib-loose": "gib", "carriage-failed": "carriages", "wheel-tight": "v-wheels", "wheel-loose": "v-wheels", "cage-crept": "cage",
  "home-switch": "home-switch", "home-marker-near": "home-switch", "tram-out": "tram",
};

/** The joint whose fasteners a cause found loose: the sheet names them. */
export const LOOSE_OF_CAUSE: Readonly<Record<string, JointId>> = {
  "coupling-screw": "hub-screw",
  "retainer-loose": "retainer",
  "housing-loose": "housing",
};

/**
 * A kind of job by its name. @throws Error for one that does not exist
 * @param id - its name
 * @returns the kind
 * @example jobKind("gib").id // 'gib'
 */
export function jobKind(id: JobKindId): JobKind {
  const kind = JOB_KINDS.find((k) => k.id === id);
  if (!kind) throw new Error(`no job kind ${id}`);
  return kind;
}

/**
 * The jobs that an axis can have.
 * @param axis - the axis’ configuration
 * @returns the kinds
 * @example jobsFor(defaultAxis("vertical-centre", "X")).some((kind) => kind.id === "tighten") // true
 */
export function jobsFor(axis: AxisConfig): readonly JobKind[] {
  return JOB_KINDS.filter((k) => k.fits(axis));
}
