import { pricesOf, type AxisConfig } from "../machine/axis";
import { effectNeeds } from "../machine/mechanism";
import type { JobPlan } from "./planner";
import type { PlannedStep } from "./step-kind";

/** Scatter of a single step and of a whole job against its estimate (common practice, no source). */
const STEP_SPREAD = 0.35;
const JOB_SPREAD = 0.2;
/** Half-width of a range that holds 80 of 100 jobs, in standard deviations of a normal. */
const EIGHTY = 1.2816;
/** A screw shop wants about two working weeks (common practice, no source). */
const SHOP_DAYS = 10;
const SHIFT_HOURS = 8;
const SMALL_PART = 40;

export interface JobEstimate {
  readonly minutes: number;
  /** Eight jobs of ten lie between, min. */
  readonly between: readonly [number, number];
  readonly people: 1 | 2;
  /** Two people: min, and the chain of steps that decides it. */
  readonly twoPeopleMinutes: number;
  readonly criticalPath: readonly string[];
  /** Working days the machine waits for somebody outside. */
  readonly waitDays: number;
  readonly downtimeCost: number;
  readonly downtimeBetween: readonly [number, number];
  readonly partsCost: number;
  /** Some of it is what such a part usually costs: nobody noted a price. */
  readonly partsUsual: boolean;
}

/**
 * Minutes, spread, people and cost of a sheet; only steps not yet done count.
 * @param plan - the sheet
 * @param done - ids of the steps that are done
 * @returns minutes, their spread, people and cost in the shop’s currency
 * @example estimateJob(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS })).minutes > 10 // true
 */
export function estimateJob(plan: JobPlan, done: ReadonlySet<string> = new Set()): JobEstimate {
  const steps = plan.steps.filter((s) => !done.has(s.id));
  const minutes = steps.reduce((sum, s) => sum + s.minutes, 0);
  const own = steps.reduce((sum, s) => sum + (STEP_SPREAD * s.minutes) ** 2, 0);
  const spread = EIGHTY * Math.sqrt(own + (JOB_SPREAD * minutes) ** 2);
  const between = [Math.max(0, minutes - spread), minutes + spread] as const;
  const hour = Math.max(0, ...plan.axes.map((a) => a.config.costs.downtimePerHour));
  const two = scheduleForTwo(steps, dependencies(steps, plan.axes));
  const waitDays = steps.some((s) => s.kind === "send-screw") ? SHOP_DAYS : 0;
  const waiting = waitDays * SHIFT_HOURS * hour;
  return {
    minutes,
    between,
    people: steps.some((s) => s.people === 2) ? 2 : 1,
    twoPeopleMinutes: two.minutes,
    criticalPath: two.path,
    waitDays,
    downtimeCost: (minutes / 60) * hour + waiting,
    downtimeBetween: [(between[0] / 60) * hour + waiting, (between[1] / 60) * hour + waiting],
    partsCost: partsCost(plan),
    partsUsual: plan.steps.some((step) => {
      const costs = plan.axes.find((a) => a.letter === step.axis)?.config.costs;
      return step.parts.some(
        (p) =>
          (p.cost === "bearing-set" && costs?.bearingSet === null) || (p.cost === "screw" && costs?.screw === null),
      );
    }),
  };
}

function partsCost(plan: JobPlan): number {
  return plan.steps.reduce((sum, step) => {
    const config = plan.axes.find((a) => a.letter === step.axis)?.config;
    const prices = config ? pricesOf(config) : null;
    return step.parts.reduce((s, part) => {
      if (part.cost === "bearing-set") return s + (prices?.bearingSet ?? 0);
      if (part.cost === "screw") return s + (prices?.screw ?? 0);
      return s + SMALL_PART * part.count;
    }, sum);
  }, 0);
}

/** Step `before` must be done before step `then`, both by place in the list. */
export type Edge = readonly [before: number, then: number];

const MOVES = new Set(["member", "block", "tie", "gear", "balance", "prop", "sling", "brake-let", "referenced"]);

/**
 * Which steps wait for which: those of the machine for all, those that move or hold the member for all
 * of its axis, others for what opens, closes or notes what they need.
 * @param steps - the steps, in their order
 * @param axes - the axes of the sheet
 * @returns pairs of steps of which one waits for the other
 * @example dependencies([], []).length // 0
 */
export function dependencies(
  steps: readonly PlannedStep[],
  axes: readonly { readonly letter: string; readonly config: AxisConfig }[],
): readonly Edge[] {
  const edges: Edge[] = [];
  const whole = steps.map((s) => s.verbs.length > 0 || s.effects.some((e) => MOVES.has(e.kind)));
  const touches = steps.map((s) => {
    const config = axes.find((a) => a.letter === s.axis)?.config;
    const needs = config ? effectNeeds(config, s.effects) : [];
    return new Set([...needs.map((n) => n.joint), ...s.effects.flatMap((e) => (e.kind === "joint" ? [e.joint] : []))]);
  });
  const changes = steps.map((s) => new Set(s.effects.flatMap((e) => (e.kind === "joint" ? [e.joint] : []))));
  const makes = steps.map((s) => s.effects.flatMap((e) => (e.kind === "note" ? [e.id] : [])));
  for (let b = 1; b < steps.length; b += 1)
    for (let a = 0; a < b; a += 1) {
      const [one, two] = [steps[a], steps[b]];
      const machine = one.axis === null || two.axis === null;
      const same = one.axis === two.axis;
      const shared = [...changes[a]].some((j) => touches[b].has(j)) || [...changes[b]].some((j) => touches[a].has(j));
      const noted = makes[a].some((n) => two.uses.includes(n));
      if (machine || (same && (whole[a] || whole[b] || shared || noted || one.phase !== two.phase))) edges.push([a, b]);
    }
  return edges;
}

/**
 * Two people on one sheet: each takes the next step whose forerunners are done, the one with the
 * longest way still to go first (list scheduling, Graham 1966); steps for two take both.
 * @param steps - the steps
 * @param edges - which waits for which
 * @returns minutes, and the steps that decide them
 * @example scheduleForTwo([], []).minutes // 0
 */
export function scheduleForTwo(
  steps: readonly Pick<PlannedStep, "id" | "minutes" | "people">[],
  edges: readonly Edge[],
): { readonly minutes: number; readonly path: readonly string[] } {
  const then: number[][] = steps.map(() => []);
  const before: number[][] = steps.map(() => []);
  for (const [a, b] of edges) {
    then[a].push(b);
    before[b].push(a);
  }
  const tail = new Array<number>(steps.length).fill(0);
  for (let i = steps.length - 1; i >= 0; i -= 1)
    tail[i] = steps[i].minutes + Math.max(0, ...then[i].map((j) => tail[j]));
  const ends = new Array<number>(steps.length).fill(-1);
  const free = [0, 0];
  const waiting = new Set(steps.map((_, i) => i));
  const from = (i: number): number => Math.max(0, ...before[i].map((b) => ends[b]));
  while (waiting.size) {
    const ready = [...waiting].filter((i) => before[i].every((b) => ends[b] >= 0));
    ready.sort((a, b) => tail[b] - tail[a]);
    free.sort((a, b) => a - b);
    const next = ready.find((i) => from(i) <= free[0]) ?? ready.reduce((a, b) => (from(b) < from(a) ? b : a));
    const at = Math.max(from(next), steps[next].people === 2 ? free[1] : free[0]);
    ends[next] = at + steps[next].minutes;
    if (steps[next].people === 2) free[1] = ends[next];
    free[0] = ends[next];
    waiting.delete(next);
  }
  return {
    minutes: Math.max(0, ...ends),
    path: longest(steps, { then, before, tail }),
  };
}

function longest(
  steps: readonly Pick<PlannedStep, "id">[],
  {
    then,
    before,
    tail,
  }: {
    readonly then: readonly (readonly number[])[];
    readonly before: readonly (readonly number[])[];
    readonly tail: readonly number[];
  },
): readonly string[] {
  const most = (among: readonly number[]): number | undefined => [...among].sort((a, b) => tail[b] - tail[a]).at(0);
  const path: string[] = [];
  let at = most(steps.map((_, i) => i).filter((i) => before[i].length === 0));
  while (at !== undefined) {
    path.push(steps[at].id);
    at = most(then[at]);
  }
  return path;
}
