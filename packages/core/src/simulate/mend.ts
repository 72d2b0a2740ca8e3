import type { PartsCondition } from "./parts-condition";
import type { VirtualAxis } from "./virtual-axis";
import type { VirtualMachine } from "./virtual-machine";

type Key = keyof PartsCondition;

/** What doing a step of a job well puts right on the simulated machine, by the step’s own name. */
const MENDS: Readonly<Record<string, readonly Key[]>> = {
  "try-all": ["flangeSlipMm", "clampSlipMm", "retainerGapMm", "housingSlipMm", "couplingSlipMm", "bracketSlipMm"],
  "tighten:hub-screw": ["couplingSlipMm"],
  "tighten:motor": ["couplingSlipMm"],
  "tighten:retainer": ["retainerGapMm"],
  "tighten:housing": ["housingSlipMm"],
  "tighten:nut-bracket": ["bracketSlipMm"],
  "tighten:bracket-member": ["bracketSlipMm"],
  "retainer-on": ["retainerGapMm"],
  "set-preload": ["retainerGapMm", "lockNutGapMm", "bearingOverN"],
  "bearing-in": ["bearingPitting", "bearingGapMm"],
  "housing-tight": ["housingSlipMm", "misalignN"],
  "housing-pinned": ["housingSlipMm"],
  "light-tight": ["housingSlipMm", "misalignN"],
  "nut-tight": ["bracketSlipMm", "misalignN"],
  "coupling-shut": ["couplingSlipMm", "couplingOffN"],
  "new-insert": ["springMm"],
  "renew-coupling": ["springMm"],
  "belt-on": ["springMm"],
  "far-bearing-in": ["supportPitting"],
  "far-shut": ["misalignN"],
  "new-screw": ["screwWearMm", "bendN", "nutGapMm", "nutDirt", "nutReturns"],
  "service-nut": ["nutGapMm", "nutDirt", "nutReturns"],
  "float-bracket": ["bracketSlipMm", "misalignN"],
  "set-antibacklash": ["nutSqueezeN", "nutGapMm"],
  "set-gib": ["gibTightN", "wayGapMm"],
  "set-gib-rock": ["gibTightN", "wayGapMm"],
  "pinion-set": ["couplingSlipMm"],
  "flush-in-place": ["nutDirt"],
  "send-screw": ["nutGapMm", "nutDirt", "nutReturns"],
  "grease-nut": ["dryness"],
  "carriage-4": ["carriageBroken"],
  "set-wheels": ["wheelTightN", "wheelGapMm"],
  "set-rack": ["rackSpotN", "chipsN"],
  "centre-cage": ["cageShiftMm"],
  "switch-on": ["homeScatterMm"],
  marker: ["markerNear"],
  "shim-head": ["tramMm", "shimmedX", "shimmedY"],
  "shim-column": ["tramMm", "shimmedX", "shimmedY"],
  "release-balance": ["counterOffN"],
  "lube-on": ["dryness"],
  "review-compensation": ["compensationMm"],
};

/**
 * The parts after a step of a job; the very same object when it puts nothing right. Bearings that
 * went back in unchanged (`renewed` false) are as worn as they were.
 * @param parts - condition of the parts
 * @param step - id of the step of a job
 * @param renewed - new parts went in
 * @returns condition of the parts afterwards
 * @example mendParts({ nutGapMm: 0.02 }, "sign-off").nutGapMm // 0.02
 */
export function mendParts(parts: PartsCondition, step: string, renewed = true): PartsCondition {
  if (step === "bearing-in" && !renewed) return parts;
  const wrong = (MENDS[step] ?? []).filter((key) => parts[key]);
  if (wrong.length === 0) return parts;
  return { ...parts, ...Object.fromEntries(wrong.map((key) => [key, 0])) };
}

/** Steps that put another screw in: its lead has errors of its own. */
const OTHER_SCREW: readonly string[] = ["new-screw", "send-screw"];

/**
 * What of a simulated axis stays as it was when a step has put parts right: the table in its control, whatever was renewed,
 * and the errors of a screw that was not.
 * @param axis - as it was
 * @param step - id of the step of a job
 * @returns what is laid over the axis made anew from its parts
 * @example
 * const axis = { ...defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1), pitchErrorMm: 0.03 };
 * keptThrough(axis, "sign-off").pitchErrorMm // 0.03
 */
export function keptThrough(axis: VirtualAxis, step: string): Partial<VirtualAxis> {
  const { correction, pitchErrorMm, slowError, leadError, scaleErrorMm } = axis;
  const table = { ...(correction ? { correction } : {}), ...(scaleErrorMm ? { scaleErrorMm } : {}) };
  if (OTHER_SCREW.includes(step)) return table;
  return { ...table, pitchErrorMm, leadError, ...(slowError ? { slowError } : {}) };
}

/** Steps that put other bearings or another screw in, by their own names: what trembled in the old ones is gone. */
const QUIETENS: readonly string[] = ["bearing-in", "far-bearing-in", ...OTHER_SCREW];
/** Fresh bearings and a fresh screw hang before they turn round, until they have run in: mm, s. */
const FRESH = { mm: 0.008, tauS: 0.09 };

/**
 * A simulated machine, beyond its axes, after a step of a job: the tremble of an axis goes with the parts that made it, and
 * fresh ones hang at a turn; the very same object when the step touches nothing of it.
 * @param machine - as it was
 * @param letter - of the axis that was worked on
 * @param step - id of the step, and whether new parts went in
 * @returns the machine afterwards
 * @example
 * const machine = soundVirtualMachine(["X"], 1);
 * mendMachine(machine, "X", { id: "sign-off", renewed: true }) === machine // true
 */
export function mendMachine(
  machine: VirtualMachine,
  letter: string,
  { id, renewed }: { readonly id: string; readonly renewed: boolean },
): VirtualMachine {
  if (!QUIETENS.includes(id) || !renewed || !(letter in machine.servos)) return machine;
  const servo = machine.servos[letter];
  const stick = servo.stick.mm > FRESH.mm ? servo.stick : FRESH;
  return { ...machine, servos: { ...machine.servos, [letter]: { ...servo, shake: null, stick } } };
}
