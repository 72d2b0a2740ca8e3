import {
  BEARING_SETS,
  COUPLINGS,
  defaultAxis,
  FIXED_ENDS,
  FIXINGS,
  GUIDEWAYS,
  LOCK_NUTS,
  MACHINE_KINDS,
  MEMBERS,
  NUTS,
  ORIENTATIONS,
  TRANSMISSIONS,
  type AxisConfig,
} from "../machine/axis";
import type { MachineState, MechanismSheet } from "../machine/mechanism";
import { stateAfter } from "../machine/mechanism";
import { JOB_KINDS } from "./job-kinds.table";
import type { JobAxis, JobItem, JobPlan } from "./planner";
import {
  ALIGN_METHODS,
  GIB_METHODS,
  NUT_SERVICES,
  PRELOAD_METHODS,
  type JobOptions,
  type PlannedStep,
} from "./step-kind";

/** Numbers from 0 to 1 that come again with the same seed (mulberry32). */
export function numbers(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export function pickFrom<T>(from: readonly T[], next: () => number): T {
  return from[Math.floor(next() * from.length)];
}

/** Any axis that can be entered, however odd. */
export function anyAxis(letter: string, next: () => number): AxisConfig {
  const pick = <T>(from: readonly T[]): T => pickFrom(from, next);
  const flip = (): boolean => next() < 0.5;
  const base = defaultAxis(pick(MACHINE_KINDS), letter);
  const transmission = pick(TRANSMISSIONS);
  const nominalMm = pick([8, 12, 16, 25, 32, 40, 63]);
  return {
    ...base,
    transmission,
    orientation: pick(ORIENTATIONS),
    member: pick(MEMBERS),
    motor: pick(["servo", "stepper"] as const),
    brake: flip(),
    counterweight: next() < 0.3,
    gasSpring: next() < 0.2,
    coupling: pick(COUPLINGS),
    ratio: pick([1, 2, 5, 12]),
    screw: {
      nominalMm,
      rootMm: 0.87 * nominalMm,
      leadMm: pick([1, 2, 5, 10, 20]),
      freeLengthMm: pick([200, 750, 2600]),
      fixings: pick(FIXINGS),
      make: pick(["rolled", "ground"] as const),
    },
    nut: pick(NUTS),
    bearings: pick(BEARING_SETS),
    lockNut: pick(LOCK_NUTS),
    guideway: pick(GUIDEWAYS),
    mechanics: {
      memberKg: flip() ? null : pick([3, 20, 60, 450]),
      motorKg: null,
      brakeAt: pick(["motor", "motor", "screw"] as const),
      brakeLever: flip(),
      dragBrakeKnown: flip(),
      fixedEnd: pick(FIXED_ENDS),
      farNut: flip(),
      flangeSide: pick(["fixed", "far"] as const),
      flangePasses: flip(),
      couplingHidden: flip(),
      bumper: flip(),
      tableOverNut: next() < 0.15,
      lubeLine: flip(),
      column: next() < 0.3,
      fasteners: {},
    },
  };
}

export function anyOptions(next: () => number): JobOptions {
  const flip = (): boolean => next() < 0.5;
  return {
    preload: pickFrom(PRELOAD_METHODS, next),
    align: pickFrom(ALIGN_METHODS, next),
    gib: pickFrom(GIB_METHODS, next),
    nutService: pickFrom(NUT_SERVICES, next),
    newInsert: flip(),
    farEndToo: flip(),
    newBearings: flip(),
    circle: flip(),
  };
}

export interface AnyJob {
  readonly axes: readonly JobAxis[];
  readonly items: readonly JobItem[];
  readonly options: JobOptions;
}

/** Any job on one to three axes, one to three kinds of work on each. */
export function anyJob(next: () => number): AnyJob {
  const letters = ["X", "Y", "Z"].slice(0, next() < 0.75 ? 1 : next() < 0.6 ? 2 : 3);
  const axes = letters.map((letter) => ({
    letter,
    config: anyAxis(letter, next),
  }));
  const items = axes.flatMap(({ letter, config }): JobItem[] => {
    const fits = JOB_KINDS.filter((k) => k.fits(config));
    const count = next() < 0.6 ? 1 : next() < 0.6 ? 2 : 3;
    return [...new Set(Array.from({ length: count }, () => pickFrom(fits, next).id))].map((kind) => ({ letter, kind }));
  });
  return { axes, items, options: anyOptions(next) };
}

/** How the machine stands after the first steps of a plan. */
export function stateAt(plan: JobPlan, count: number): MachineState {
  return plan.steps.slice(0, count).reduce((state, s) => stateAfter(state, s.axis, s.effects), plan.start);
}

/** A plan as the audit takes it, with the kit its steps ask for. */
export function sheetOf(axes: readonly JobAxis[], start: MachineState, steps: readonly PlannedStep[]): MechanismSheet {
  return {
    axes,
    start,
    steps,
    kit: {
      tools: [...new Set(steps.flatMap((s) => s.tools))],
      people: steps.some((s) => s.people === 2) ? 2 : 1,
      parts: [...new Set(steps.flatMap((s) => s.parts.map((p) => p.name)))],
    },
  };
}
