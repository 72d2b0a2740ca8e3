import type { AxisConfig } from "../axis";
import { edgesOf } from "./order";
import type { JobPlan, PlannedStep } from "./planner";

/** Scatter of a single step and of a whole job against its estimate (common practice, no source). */
const STEP_SPREAD = 0.35;
const JOB_SPREAD = 0.2;
/** Half-width of a range that holds 80 of 100 jobs, in standard deviations of a normal. */
const EIGHTY = 1.2816;

export interface JobEstimate {
  readonly minutes: number;
  /** Eight jobs of ten lie between, min. */
  readonly between: readonly [number, number];
  readonly people: number;
  /** Two people: min, and the chain of steps that decides it. */
  readonly twoPeopleMinutes: number;
  readonly criticalPath: readonly string[];
  readonly downtimeCost: number;
  readonly downtimeBetween: readonly [number, number];
  readonly partsCost: number;
}

/** Minutes, spread, people and cost of a sheet; only steps not yet done count. */
export function estimateJob(
  plan: JobPlan,
  axes: readonly { readonly letter: string; readonly config: AxisConfig }[],
  done: ReadonlySet<string> = new Set(),
): JobEstimate {
  const steps = plan.steps.filter((s) => !done.has(s.id));
  const minutes = steps.reduce((sum, s) => sum + s.minutes, 0);
  const own = steps.reduce((sum, s) => sum + (STEP_SPREAD * s.minutes) ** 2, 0);
  const spread = EIGHTY * Math.sqrt(own + (JOB_SPREAD * minutes) ** 2);
  const between = [Math.max(0, minutes - spread), minutes + spread] as const;
  const hour = Math.max(0, ...axes.map((a) => a.config.costs.downtimePerHour));
  const two = twoPeople(steps);
  return {
    minutes,
    between,
    people: steps.some((s) => s.people === 2) ? 2 : 1,
    twoPeopleMinutes: two.minutes,
    criticalPath: two.path,
    downtimeCost: (minutes / 60) * hour,
    downtimeBetween: [(between[0] / 60) * hour, (between[1] / 60) * hour],
    partsCost: partsCost(plan, axes),
  };
}

const SMALL_PART = 40;

function partsCost(
  plan: JobPlan,
  axes: readonly { readonly letter: string; readonly config: AxisConfig }[],
): number {
  let sum = 0;
  for (const step of plan.steps) {
    const costs = axes.find((a) => a.letter === step.axis)?.config.costs;
    for (const part of step.parts) {
      if (part.cost === "bearing-set") sum += costs?.bearingSet ?? 0;
      else if (part.cost === "screw") sum += costs?.screw ?? 0;
      else if (part.cost === "small") sum += SMALL_PART * part.count;
    }
  }
  return sum;
}

/**
 * Two people on one sheet: each takes the next step whose forerunners are done, the one with the
 * longest way still to go first (list scheduling, Graham 1966); steps for two take both.
 */
function twoPeople(steps: readonly PlannedStep[]): {
  minutes: number;
  path: readonly string[];
} {
  const edges = edgesOf(steps);
  const then: number[][] = steps.map(() => []);
  const before: number[][] = steps.map(() => []);
  for (const [a, b] of edges) {
    then[a].push(b);
    before[b].push(a);
  }
  const tail = new Array<number>(steps.length).fill(-1);
  const wayOf = (i: number): number => {
    if (tail[i] >= 0) return tail[i];
    tail[i] = steps[i].minutes + Math.max(0, ...then[i].map(wayOf));
    return tail[i];
  };
  steps.forEach((_, i) => wayOf(i));
  const ends = new Array<number>(steps.length).fill(-1);
  const free = [0, 0];
  const waiting = new Set(steps.map((_, i) => i));
  while (waiting.size) {
    const ready = [...waiting].filter((i) => before[i].every((b) => ends[b] >= 0)); // prettier-ignore
    const from = (i: number): number => Math.max(0, ...before[i].map((b) => ends[b])); // prettier-ignore
    ready.sort((a, b) => tail[b] - tail[a]);
    free.sort((a, b) => a - b);
    const next = ready.find((i) => from(i) <= free[0]) ?? ready.reduce((a, b) => (from(b) < from(a) ? b : a)); // prettier-ignore
    const at = Math.max(from(next), steps[next].people === 2 ? free[1] : free[0]); // prettier-ignore
    ends[next] = at + steps[next].minutes;
    if (steps[next].people === 2) free[1] = ends[next];
    free[0] = ends[next];
    waiting.delete(next);
  }
  const path: string[] = [];
  let at = steps.map((_, i) => i).filter((i) => before[i].length === 0).sort((a, b) => tail[b] - tail[a])[0] as number | undefined; // prettier-ignore
  while (at !== undefined) {
    path.push(steps[at].id);
    at = [...then[at]].sort((a, b) => tail[b] - tail[a])[0] as number | undefined; // prettier-ignore
  }
  return { minutes: Math.max(0, ...ends), path };
}

export interface KitList {
  readonly parts: readonly { readonly name: string; readonly count: number; readonly order: boolean; readonly axes: string }[]; // prettier-ignore
  readonly tools: readonly string[];
  readonly consumables: readonly string[];
  readonly photos: readonly string[];
  readonly cautions: readonly string[];
  readonly standIns: readonly { readonly tool: string; readonly standIn: string }[]; // prettier-ignore
}

/** What does where the special tool is missing (common practice, no source). */
const STAND_INS: Readonly<Record<string, string>> = {
  "pin or hook spanner": "a turned ring with two pins; never a drift and hammer",
  "bearing puller": "two flat bars and jack screws on the ring that is tight",
  "belt tension gauge or phone microphone": "deflection under a spring scale, by the maker’s figure",
  "pin puller": "a screw in the pin’s thread with a tube and washer as slide hammer",
  "jack screws": "two long screws in the housing’s own threads, turned evenly",
  "transport rail": "a strip planed to the rail’s profile, held tight against its end",
  "cord and spring scale": "a known weight on the cord, added until it just turns",
  sleeve: "tube turned a little under the root diameter",
}; // prettier-ignore

/** Everything to have ready before a job begins. */
export function kitList(plan: JobPlan): KitList {
  const parts = new Map<string, { count: number; order: boolean; axes: Set<string> }>(); // prettier-ignore
  const unique = (of: (s: PlannedStep) => readonly string[]): string[] => [
    ...new Set(plan.steps.flatMap(of).filter(Boolean)),
  ];
  for (const step of plan.steps)
    for (const part of step.parts) {
      const there = parts.get(part.name) ?? { count: 0, order: false, axes: new Set() }; // prettier-ignore
      there.count += part.count;
      there.order ||= part.order ?? false;
      if (step.axis) there.axes.add(step.axis);
      parts.set(part.name, there);
    }
  const tools = unique((s) => s.tools);
  return {
    parts: [...parts].map(([name, p]) => ({ name, count: p.count, order: p.order, axes: [...p.axes].join(", ") })), // prettier-ignore
    tools,
    consumables: unique((s) => s.consumables),
    photos: unique((s) => [s.photo && `${s.axis ? `${s.axis}: ` : ""}${s.photo}`]), // prettier-ignore
    cautions: unique((s) => [s.caution]),
    standIns: tools.flatMap((tool) =>
      STAND_INS[tool] ? [{ tool, standIn: STAND_INS[tool] }] : [],
    ),
  };
}
