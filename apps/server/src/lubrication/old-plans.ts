import { startState, type RetestId } from "@iron/core";
import type { Job, JobEventRecord } from "@iron/contract";

type Plan = Job["plan"];
type Step = Plan["steps"][number];

/** A step of a sheet from before sheets were planned over the mechanism. */
interface OldStep extends Omit<Step, "retest" | "parts"> {
  readonly retest: string | null;
  readonly torque?: string;
  readonly parts: readonly {
    readonly name: string;
    readonly count: number;
    readonly order?: boolean;
    readonly cost?: Step["parts"][number]["cost"];
  }[];
}

const RETESTS: Readonly<Record<string, RetestId>> = {
  chain: "chain",
  travel: "travel-load",
  home: "home",
  tram: "tram",
};

/**
 * A sheet as sheets are now. One from before says what it said, and nothing of the mechanism: it can
 * be read and signed on, and what it opened is told by its own words alone.
 */
export function modernPlan(plan: Plan): Plan {
  if ("axes" in plan) return plan;
  const old = (plan as { steps: readonly OldStep[] }).steps;
  const letters = [...new Set(old.flatMap((s) => (s.axis ? [s.axis] : [])))];
  return {
    axes: [],
    start: startState(letters) as Plan["start"],
    steps: old.map((s): Step => ({
      id: s.id,
      axis: s.axis,
      kind: s.id.slice(s.id.indexOf(":") + 1),
      phase: s.phase,
      hands: "out",
      verbs: [],
      at: null,
      uses: [],
      effects: [],
      tools: s.tools,
      people: s.people,
      parts: s.parts.map((p) => ({
        name: p.name,
        count: p.count,
        of: null,
        order: p.order ?? false,
        cost: p.cost ?? "small",
      })),
      hold: s.hold,
      retest: s.retest === null ? null : (RETESTS[s.retest] ?? null),
      keeps: null,
      title: s.title,
      why: s.why,
      how: s.how,
      caution: s.caution,
      good: s.good,
      ifNot: s.ifNot,
      state: "",
      minutes: s.minutes,
      consumables: s.consumables,
      photo: s.photo,
      finds: s.finds,
      reading: s.reading,
      torques: s.torque ? [s.torque] : [],
    })),
  };
}

type Stored<T> = T extends unknown ? Omit<T, "at" | "by" | "key"> : never;

export function modernEvent<T extends Stored<JobEventRecord>>(event: T): T {
  return event.kind === "plan" && "plan" in event ? { ...event, plan: modernPlan(event.plan as Plan) } : event;
}
