import { isGravityAxis, type AxisConfig } from "../axis";
import type { JobKind, JobKindId, JobOptions } from "./types";

export const DEFAULT_OPTIONS: JobOptions = {
  preload: "torque",
  align: "carriage",
  gib: "knee",
  nutService: "rebuild",
  newInsert: true,
  farEndToo: false,
};

const hasScrew = (a: AxisConfig): boolean => a.transmission !== "rack";
const hasBracket = (a: AxisConfig): boolean =>
  a.transmission !== "rack" && a.transmission !== "rotating-nut";
/** The screw turns in end bearings of its own. */
const turns = hasBracket;
const coupled = (a: AxisConfig): boolean =>
  a.transmission === "direct" || a.transmission === "plain-screw";
const farEnd = (a: AxisConfig): boolean =>
  hasScrew(a) && a.screw.fixings !== "fixed-free";
const bracket = (a: AxisConfig): string[] =>
  hasBracket(a) ? ["bracket-loose"] : [];

function bearings(a: AxisConfig, o: JobOptions): readonly string[] {
  return [
    "bearing-out",
    "finger-feel",
    ...(isGravityAxis(a) && turns(a) && a.transmission !== "plain-screw" ? ["back-drive"] : []), // prettier-ignore
    "clean-seat",
    "set-preload",
    ...bracket(a),
    ...(coupled(a) && a.coupling === "insert" && o.newInsert ? ["new-insert"] : []), // prettier-ignore
    ...(o.farEndToo && farEnd(a) ? ["far-bearing-out"] : []),
  ];
}

const SOURCE = "common practice, no source";

/** Every kind of job, where it fits and the steps that are the work itself. */
export const JOB_KINDS: readonly JobKind[] = [
  { id: "tighten", name: "Tighten loose fasteners", fits: () => true, steps: () => ["measure-before", "tighten-found", "retest-chain"], provenance: SOURCE },
  { id: "fixed-bearings", name: "Replace fixed-end bearings", fits: hasScrew, steps: bearings, provenance: SOURCE },
  { id: "support-bearing", name: "Replace support-end bearing", fits: (a) => turns(a) && farEnd(a), steps: () => ["far-bearing-out"], provenance: SOURCE },
  { id: "screw", name: "Replace screw with nut", fits: hasScrew, steps: (a, o) => ["screw-out", "new-screw", "clean-seat", "bearing-out", "finger-feel", "set-preload", ...bracket(a), ...(o.newInsert && coupled(a) && a.coupling === "insert" ? ["new-insert"] : [])], provenance: SOURCE },
  { id: "ball-nut", name: "Take out, service and refit the ball nut", fits: (a) => hasScrew(a) && a.transmission !== "plain-screw", steps: (a) => ["screw-out", "nut-from-screw", "service-nut", "set-preload", ...bracket(a)], provenance: SOURCE },
  { id: "coupling", name: "Replace or reset the coupling", fits: coupled, steps: () => ["renew-coupling"], provenance: SOURCE },
  { id: "bearing-preload", name: "Reset bearing-nut preload", fits: turns, steps: () => ["set-preload"], provenance: SOURCE },
  { id: "align-screw", name: "Align the screw to the ways", fits: turns, steps: (a) => ["housing-loose", "bracket-loose", ...(farEnd(a) ? ["far-open"] : [])], provenance: SOURCE },
  { id: "float-bracket", name: "Float and refix the nut bracket", fits: turns, steps: () => ["bracket-loose"], provenance: SOURCE },
  { id: "gib", name: "Set the gib", fits: (a) => a.guideway === "box" || a.guideway === "dovetail", steps: () => ["loosen-gib", "set-gib"], provenance: SOURCE },
  { id: "carriages", name: "Replace rail carriages, one at a time", fits: (a) => a.guideway === "rail", steps: () => ["carriage-off", "carriage-on"], provenance: SOURCE },
  { id: "v-wheels", name: "Set the V-wheels", fits: (a) => a.guideway === "v-wheel", steps: () => ["loosen-wheels", "set-wheels"], provenance: SOURCE },
  { id: "rack-spot", name: "Free a rack tight spot", fits: (a) => a.transmission === "rack", steps: () => ["loosen-rack", "set-rack"], provenance: SOURCE },
  { id: "cage", name: "Recentre a creeping cage", fits: (a) => a.guideway === "ball-cage" || a.guideway === "crossed-roller", steps: () => ["relieve-cage", "centre-cage"], provenance: SOURCE },
  { id: "antibacklash", name: "Set the anti-backlash nut", fits: (a) => a.nut === "anti-backlash" && hasScrew(a), steps: () => ["loosen-antibacklash", "set-antibacklash"], provenance: SOURCE },
  { id: "home-switch", name: "Renew home switch and cable, set the marker distance", fits: () => true, steps: () => ["switch-off", "switch-on"], provenance: SOURCE },
  { id: "tram", name: "Check and shim the head square", fits: (a) => a.member === "head" || a.member === "quill" || a.member === "ram", steps: () => ["head-loose", "shim-head"], provenance: SOURCE },
]; // prettier-ignore

export function jobKind(id: JobKindId): JobKind {
  const kind = JOB_KINDS.find((k) => k.id === id);
  if (!kind) throw new Error(`no job kind ${id}`);
  return kind;
}

/** The jobs that an axis can have. */
export function jobsFor(axis: AxisConfig): readonly JobKind[] {
  return JOB_KINDS.filter((k) => k.fits(axis));
}

/** The job that mends a cause of the catalogue; null where there is nothing to open. */
export const JOB_OF_CAUSE: Readonly<Record<string, JobKindId>> = {
  "coupling-screw": "tighten",
  "coupling-insert": "coupling",
  "coupling-eccentric": "coupling",
  "retainer-loose": "tighten",
  "nut-preload-lost": "bearing-preload",
  "end-bearing-worn": "fixed-bearings",
  "end-bearing-overtight": "bearing-preload",
  "housing-loose": "tighten",
  "support-bearing": "support-bearing",
  "screw-worn-middle": "screw",
  "screw-bent": "screw",
  "screw-misaligned": "align-screw",
  "nut-worn": "ball-nut",
  "nut-dirty": "ball-nut",
  "nut-returns": "ball-nut",
  "bracket-loose": "float-bracket",
  "antibacklash-tight": "antibacklash",
  "antibacklash-worn": "antibacklash",
  "rack-spot": "rack-spot",
  "pinion-loose": "tighten",
  "gib-tight": "gib",
  "gib-loose": "gib",
  "carriage-failed": "carriages",
  "wheel-tight": "v-wheels",
  "wheel-loose": "v-wheels",
  "cage-crept": "cage",
  "home-switch": "home-switch",
  "home-marker-near": "home-switch",
  "tram-out": "tram",
};

/**
 * What a need like `@front` means on an axis: the part that ties the motor to the drive, the lock tab
 * where there is one, the far end where it is held, the nut’s bracket.
 */
export function resolveNeed(need: string, axis: AxisConfig): string | null {
  switch (need) {
    case "@front":
      if (axis.transmission === "rack") return "drive-unplugged";
      return coupled(axis) ? "coupling-open" : "belt-off";
    case "@tab":
      return axis.lockNut === "double-nut-tab" ? "tab-open" : null;
    case "@far":
      return farEnd(axis) ? "far-bearing-out" : null;
    case "@parted":
      return hasBracket(axis) ? "nut-parted" : null;
    default:
      return need;
  }
}

/** Held by something that stores energy, and so to be secured before it is freed. */
export function hasBalance(axis: AxisConfig): boolean {
  return isGravityAxis(axis) && (axis.counterweight || axis.gasSpring);
}
