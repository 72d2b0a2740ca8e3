import { isGravityAxis, type AxisConfig } from "../axis";
import { lengthsIn, type UnitSystem } from "../quantity";
import { bareName, CARRYING, openFact, STOPPING } from "./facts";
import { hasBalance, jobKind, resolveNeed } from "./job-kinds";
import { POWER_STEPS, SECURE_STEPS } from "./steps-secure";
import { DRIVE_STEPS } from "./steps-drive";
import { SCREW_STEPS } from "./steps-screw";
import { edgesOf, topological } from "./order";
import { torqueWords } from "./fasteners";
import { PHASES, type FindChoice, type JobKindId, type JobOptions, type Part, type Phase, type RetestId, type StepReading, type StepTemplate } from "./types"; // prettier-ignore

export interface JobAxis {
  readonly letter: string;
  readonly config: AxisConfig;
}

export interface JobRequest {
  readonly axes: readonly JobAxis[];
  readonly items: readonly { readonly letter: string; readonly kind: JobKindId }[]; // prettier-ignore
  readonly options: JobOptions;
  /** Facts that already hold: a sheet planned anew in the middle of a job. */
  readonly start?: readonly string[];
  /** Steps of the work itself that are done and not done twice. */
  readonly skip?: ReadonlySet<string>;
}

/** A step fitted to its axis. Facts are named with their axis: `Z:motor-off`, `isolated`. */
export interface PlannedStep {
  readonly id: string;
  readonly axis: string | null;
  readonly phase: Phase;
  readonly title: string;
  readonly why: string;
  readonly how: readonly string[];
  readonly caution: string;
  readonly good: string;
  readonly ifNot: string;
  readonly minutes: number;
  readonly people: 1 | 2;
  readonly needs: readonly string[];
  readonly without: readonly string[];
  readonly opens: string | null;
  readonly closes: string | null;
  readonly does: string | null;
  readonly after: readonly string[];
  readonly tools: readonly string[];
  readonly parts: readonly Part[];
  readonly consumables: readonly string[];
  readonly photo: string;
  readonly hold: string;
  readonly finds: readonly FindChoice[];
  readonly reading: StepReading | null;
  readonly torque: string;
  readonly retest: RetestId | null;
  /** What must go back as it was, or its change be recorded. */
  readonly keep: "shim" | "pin" | "spacer" | null;
}

export interface JobPlan {
  readonly start: readonly string[];
  readonly steps: readonly PlannedStep[];
}

export const TEMPLATES: readonly StepTemplate[] = [
  ...SECURE_STEPS,
  ...DRIVE_STEPS,
  ...SCREW_STEPS,
  ...POWER_STEPS,
];
const BY_ID = new Map(TEMPLATES.map((t) => [t.id, t]));
const OPENER = new Map(TEMPLATES.flatMap((t) => (t.opens ? [[t.opens, t]] : []))); // prettier-ignore
const CLOSER = new Map(TEMPLATES.flatMap((t) => (t.closes ? [[t.closes, t]] : []))); // prettier-ignore
const DOER = new Map(TEMPLATES.flatMap((t) => (t.does ? [[t.does, t]] : [])));
const RETEST = new Map(TEMPLATES.flatMap((t) => (t.retest ? [[t.retest, t]] : []))); // prettier-ignore
/** After these, home is lost and the machine’s values are noted first. */
const LOSES_HOME = ["coupling-open", "belt-off", "motor-off", "switch-off"];

/**
 * The sheet of a job: the steps that are the work, everything they need, everything that undoes what
 * they open, the retest of each opened link; put in an order in which each step’s needs hold.
 */
export function planJob(request: JobRequest): JobPlan {
  const start = [...(request.start ?? [])];
  const planned = new Map<string, PlannedStep>();
  const makers = new Set<string>(start);
  const add = (template: StepTemplate, axis: JobAxis | null): void => {
    const own = template.scope === "machine" ? null : axis;
    const id = own ? `${own.letter}:${template.id}` : template.id;
    if (planned.has(id)) return;
    const step = stepOn(template, own ?? request.axes[0], id, request);
    planned.set(id, step);
    if (step.opens) makers.add(step.opens);
    if (step.does) makers.add(step.does);
  };
  const provide = (fact: string): void => {
    const bare = bareName(fact);
    const template = OPENER.get(bare) ?? DOER.get(bare);
    if (template) add(template, axisOf(request, fact));
  };
  for (const axis of request.axes)
    for (const item of request.items)
      if (item.letter === axis.letter)
        for (const id of jobKind(item.kind).steps(axis.config, request.options)) {
          if (request.skip?.has(`${axis.letter}:${id}`)) continue;
          const template = BY_ID.get(id) ?? OPENER.get(id);
          if (!template) throw new Error(`no step ${id}`);
          if (request.start && template.phase === "prepare") continue;
          add(template, axis);
        } // prettier-ignore
  const sign = BY_ID.get("sign-off");
  if (sign) add(sign, null);
  // Each round may bring steps with needs of their own, until nothing is missing.
  for (let size = -1; size !== planned.size;) {
    size = planned.size;
    for (const step of [...planned.values()])
      for (const need of step.needs) if (!makers.has(need)) provide(need);
    for (const fact of [...makers]) {
      const open = openFact(fact);
      if (!open) continue;
      const axis = axisOf(request, fact);
      const closer = CLOSER.get(bareName(fact));
      if (closer) add(closer, axis);
      const retest = open.retest && RETEST.get(open.retest);
      if (retest) add(retest, axis);
      if (open.retest === "chain") {
        if (!request.start) add(BY_ID.get("measure-before") as StepTemplate, axis); // prettier-ignore
        add(BY_ID.get("review-compensation") as StepTemplate, axis);
      }
      if (LOSES_HOME.includes(bareName(fact))) {
        if (!request.start) add(BY_ID.get("note-home") as StepTemplate, axis);
        add(BY_ID.get("reference") as StepTemplate, axis);
      }
    }
  }
  const steps = settleAcross([...planned.values()], makers);
  return { start, steps: topological(steps, edgesOf(steps), rankOf(request)) }; // prettier-ignore
}

function axisOf(request: JobRequest, fact: string): JobAxis | null {
  if (!fact.includes(":")) return null;
  const letter = fact.slice(0, fact.indexOf(":"));
  return request.axes.find((a) => a.letter === letter) ?? null;
}

/** A template on its axis, with what the safety of the axis adds to its needs. */
function stepOn(
  template: StepTemplate,
  axis: JobAxis,
  id: string,
  request: JobRequest,
): PlannedStep {
  const { config, letter } = axis;
  const machine = template.scope === "machine";
  const qualify = (fact: string): string =>
    machine || fact === "isolated" || fact === "isolated-again" || fact === "tools-out"
      ? fact
      : `${letter}:${fact}`; // prettier-ignore
  const needs = new Set<string>();
  for (const need of template.needs ?? []) {
    const meant = resolveNeed(need, config);
    if (meant) needs.add(qualify(meant));
  }
  if (template.reachIn) needs.add("isolated");
  const touches = template.opens ?? template.closes;
  const carried = !machine && isGravityAxis(config) && touches && openFact(touches)?.carries; // prettier-ignore
  if (carried) {
    needs.add(qualify("blocked"));
    needs.add(qualify("block-tried"));
    if (hasBalance(config)) needs.add(qualify("balance-secured"));
  }
  const without = new Set((template.without ?? []).map(qualify));
  const movesDrive = template.powered === true || (template.phase === "prepare" && !machine); // prettier-ignore
  if (movesDrive) {
    for (const fact of ["isolated", "isolated-again"]) without.add(fact);
    if (template.phase !== "prepare") for (const fact of STOPPING) without.add(qualify(fact)); // prettier-ignore
  }
  if (template.closes === "blocked")
    for (const fact of CARRYING) without.add(qualify(fact));
  if (template.id === "slow-jog" && isGravityAxis(config))
    without.add(qualify("blocked"));
  if (template.closes) needs.add(qualify(template.closes));
  const words = typeof template.words === "function" ? template.words(config, request.options) : template.words; // prettier-ignore
  const keep = touches ? (openFact(touches)?.keep ?? null) : null;
  const parts = template.id === "bearing-in" && !renewsBearings(request, letter) ? [] : (template.parts ?? []); // prettier-ignore
  return {
    id,
    axis: machine ? null : letter,
    phase: template.phase,
    title: words.title,
    why: words.why,
    how: words.how,
    caution: words.caution ?? "",
    good: words.good ?? "",
    ifNot: words.ifNot ?? "",
    minutes: template.minutes,
    people: template.people ?? 1,
    needs: [...needs],
    without: [...without],
    opens: template.opens ? qualify(template.opens) : null,
    closes: template.closes ? qualify(template.closes) : null,
    does: template.does ? qualify(template.does) : null,
    after: (template.after ?? []).map((a) => machine ? a : `${letter}:${a}`), // prettier-ignore
    tools: template.tools ?? [],
    parts,
    consumables: template.consumables ?? [],
    photo: template.photo ?? "",
    hold: template.hold ?? "",
    finds: template.finds ?? [],
    reading: template.reading ?? null,
    torque: template.torque ? torqueWords(config, template.torque) : "",
    retest: template.retest ?? null,
    keep,
  };
}

/** A step as it is read in these units: the plan itself is kept in metric words. */
export function stepIn(step: PlannedStep, system: UnitSystem): PlannedStep {
  if (system === "metric") return step;
  const say = (text: string): string => lengthsIn(text, system);
  return {
    ...step,
    title: say(step.title),
    why: say(step.why),
    how: step.how.map(say),
    caution: say(step.caution),
    good: say(step.good),
    ifNot: say(step.ifNot),
    finds: step.finds.map((f) => (f.say ? { ...f, say: say(f.say) } : f)),
    reading: step.reading && {
      ...step.reading,
      label: say(step.reading.label),
    },
  };
}

function renewsBearings(request: JobRequest, letter: string): boolean {
  return request.items.some(
    (i) => i.letter === letter && (i.kind === "fixed-bearings" || i.kind === "screw"),
  ); // prettier-ignore
}

/** What hangs on the whole sheet: power, closing up and sign-off wait for every axis. */
function settleAcross(
  steps: readonly PlannedStep[],
  facts: ReadonlySet<string>,
): PlannedStep[] {
  const open = [...facts].filter((f) => openFact(f));
  const retested = [...facts].filter((f) => bareName(f).startsWith("retested-")); // prettier-ignore
  const stopping = open.filter((f) => openFact(f)?.stopsDrive);
  const everyDone = [...facts].filter((f) => !openFact(f) && f !== "signed");
  const work = steps.filter((s) => s.phase === "work").map((s) => s.id);
  return steps.map((step) => {
    switch (step.id) {
      case "tools-out":
        return { ...step, after: [...step.after, ...work], without: [...step.without, ...stopping] }; // prettier-ignore
      case "energise":
        return { ...step, without: [...step.without, ...stopping] };
      case "isolate-again":
        return { ...step, needs: [...step.needs, ...retested], without: [...step.without, "isolated", ...open.filter((f) => bareName(f) === "blocked")] }; // prettier-ignore
      case "sign-off":
        return {
          ...step,
          needs: [...step.needs, ...everyDone],
          without: [...step.without, ...open],
          after: steps.filter((s) => s.id !== step.id).map((s) => s.id),
        }; // prettier-ignore
      default:
        if (step.phase === "close" && step.axis)
          return { ...step, needs: [...step.needs, ...retested.filter((f) => f.startsWith(`${step.axis}:`))] }; // prettier-ignore
        return step;
    }
  });
}

/** Order wanted where the needs leave it open: by phase, axis by axis, in the order of the trade. */
function rankOf(request: JobRequest): (step: PlannedStep) => number {
  const place = new Map(TEMPLATES.map((t, i) => [t.id, i]));
  return (step) => {
    const axis = request.axes.findIndex((a) => a.letter === step.axis);
    const within = place.get(bareName(step.id)) ?? 0;
    return PHASES.indexOf(step.phase) * 1e6 + (axis + 1) * 1e3 + within;
  };
}
