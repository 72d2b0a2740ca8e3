import { findingsOf, UNKNOWN_CONTEXT, type AxisConfig, type CaseContext, type Report } from "@iron/core";
import type { World } from "../diagnosis-case";
import { luckFrom, type Luck } from "../luck";
import { lostUm, soundCondition, type Condition } from "./condition";
import { FAULTS, type Fault, type Origin } from "./faults.table";
import { tried, type Answer } from "./instruments";
import { PEOPLE, told } from "./people";

/** One axis of this world, what is wrong with it, and what is told of it. */
export interface Scene {
  readonly config: AxisConfig;
  readonly condition: Condition;
  readonly faults: readonly string[];
  readonly context: CaseContext;
  readonly reports: readonly Report[];
  readonly seed: number;
}

/** How many faults an axis has when somebody is called to it. */
export const FAULT_COUNTS = [0.12, 0.7, 0.18] as const;

/** What is so of the machine, and how much oftener that makes a fault of each origin. Common practice, no source. */
const HISTORY: Record<
  Exclude<Origin, "any">,
  { readonly so: (c: CaseContext) => boolean | null; readonly times: number }
> = {
  wear: { so: (c) => (c.ageYears === null ? null : c.ageYears >= 8), times: 2.5 },
  work: { so: (c) => (c.weeksSinceWork === null ? null : c.weeksSinceWork <= 10), times: 3 },
  crash: { so: (c) => c.crash, times: 4 },
  dirt: { so: (c) => c.dusty, times: 2.5 },
  stop: { so: (c) => c.longStop, times: 3 },
  parameter: { so: (c) => c.parameterChange, times: 5 },
  fresh: { so: (c) => c.freshParts, times: 6 },
  moved: { so: (c) => c.moved, times: 3 },
};

/** How often a fault is met on an axis of that history. */
export function oftenOn(fault: Fault, context: CaseContext): number {
  let times = 1;
  for (const origin of fault.of) {
    if (origin === "any") continue;
    const { so, times: by } = HISTORY[origin];
    if (so(context) === true) times = Math.max(times, by);
  }
  return fault.often * times;
}

export const faultsOn = (config: AxisConfig): readonly Fault[] => FAULTS.filter((f) => f.on(config));

/** An axis with these faults: drawn parts, each fault as bad as chance has it. */
export function conditionWith(config: AxisConfig, faults: readonly Fault[], u: () => number): Condition {
  const condition = soundCondition(config, u);
  for (const fault of faults) fault.worse(condition, u(), u);
  return condition;
}

function drawContext(u: () => number): CaseContext {
  const yes = (p: number): boolean => u() < p;
  return {
    ageYears: Math.round(Math.exp(0.4 + 2.6 * u()) * 10) / 10,
    weeksSinceWork: Math.round(1 + 150 * u() ** 1.5),
    crash: yes(0.06),
    moved: yes(0.05),
    longStop: yes(0.06),
    freshParts: yes(0.08),
    dusty: yes(0.3),
    samePlace: yes(0.3),
    parameterChange: yes(0.05),
    only: null,
  };
}

/** What of it is told: a third is not known to whoever stands there. */
function toldOf(context: CaseContext, u: () => number): CaseContext {
  const known = Object.entries(context).map(([key, value]) => [key, u() < 1 / 3 ? null : value] as const);
  return { ...UNKNOWN_CONTEXT, ...Object.fromEntries(known) };
}

function draw<T>(u: () => number, from: readonly T[], weight: (one: T) => number): T {
  let at = u() * from.reduce((sum, one) => sum + weight(one), 0);
  return from.find((one) => (at -= weight(one)) < 0) ?? from[from.length - 1];
}

/** Draws an axis of the configurations given. */
export function drawScene(seed: number, configs: readonly AxisConfig[]): Scene {
  const luck: Luck = luckFrom(0x5eed + seed);
  const u = (): number => luck.uniform();
  const config = configs[seed % configs.length];
  const context = drawContext(u);
  const count = draw(u, [0, 1, 2], (n) => FAULT_COUNTS[n]);
  const faults: Fault[] = [];
  for (let i = 0; i < count; i += 1) {
    const left = faultsOn(config).filter((f) => !faults.includes(f));
    faults.push(draw(u, left, (f) => oftenOn(f, context)));
  }
  const condition = conditionWith(config, faults, u);
  const who = draw(u, [0, 1, 2], (i) => PEOPLE[i].often);
  return {
    config,
    condition,
    faults: faults.map((f) => f.id),
    context: toldOf(context, u),
    reports: told(config, { condition, who, u }),
    seed,
  };
}

/** An axis of this world, to be tested. */
export function apartWorld(seed: number, configs: readonly AxisConfig[]): World<Answer> {
  const { config, condition, faults, context, reports } = drawScene(seed, configs);
  return {
    config,
    context,
    faults,
    reports,
    seed,
    lostMm: (lostUm(config, condition) + condition.wearUm) / 1000,
    doTest: (test, luck) => tried(test, { axis: config, c: condition, ids: findingsOf(config, test), luck }),
  };
}
