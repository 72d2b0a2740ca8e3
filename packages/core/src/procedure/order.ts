import { bareName, factWords, openFact } from "./facts";
import type { PlannedStep } from "./planner";
import { PHASES } from "./types";

const phaseOf = (step: PlannedStep): number => PHASES.indexOf(step.phase);

/** Step `before` must be done before step `then`, both by place in the list. */
export type Edge = readonly [before: number, then: number];

/** Everything that the steps’ needs, and what they open and close, say about their order. */
export function edgesOf(steps: readonly PlannedStep[]): readonly Edge[] {
  const edges: Edge[] = [];
  const at = new Map(steps.map((s, i) => [s.id, i]));
  const opener = new Map<string, number>();
  const closer = new Map<string, number>();
  const doer = new Map<string, number>();
  steps.forEach((s, i) => {
    if (s.opens) opener.set(s.opens, i);
    if (s.closes) closer.set(s.closes, i);
    if (s.does) doer.set(s.does, i);
  });
  const add = (before: number | undefined, then: number | undefined): void => {
    if (before !== undefined && then !== undefined && before !== then)
      edges.push([before, then]);
  };
  steps.forEach((step, i) => {
    for (const need of step.needs) {
      if (openFact(need)) {
        add(opener.get(need), i);
        add(i, closer.get(need));
      } else add(doer.get(need), i);
    }
    for (const fact of step.without) {
      // Before it is undone when the step belongs to an earlier phase, else after it is back.
      const by = opener.get(fact);
      if (by !== undefined && phaseOf(step) < phaseOf(steps[by])) add(i, by);
      else add(closer.get(fact), i);
    }
    for (const id of step.after) add(at.get(id), i);
  });
  return edges;
}

/**
 * An order that keeps every edge, the lowest rank first where there is a choice (Kahn 1962).
 * @throws Error when the edges go round in a circle
 */
export function topological(
  steps: readonly PlannedStep[],
  edges: readonly Edge[],
  rank: (step: PlannedStep) => number,
): readonly PlannedStep[] {
  const waits = steps.map(() => 0);
  const frees: number[][] = steps.map(() => []);
  for (const [before, then] of edges) {
    waits[then] += 1;
    frees[before].push(then);
  }
  const ready = steps.map((_, i) => i).filter((i) => waits[i] === 0);
  const order: PlannedStep[] = [];
  while (ready.length) {
    ready.sort((a, b) => rank(steps[a]) - rank(steps[b]));
    const next = ready.shift() as number;
    order.push(steps[next]);
    for (const then of frees[next]) {
      waits[then] -= 1;
      if (waits[then] === 0) ready.push(then);
    }
  }
  if (order.length < steps.length) {
    const stuck = steps.filter((_, i) => waits[i] > 0).map((s) => s.id);
    throw new Error(`no order for: ${stuck.join(", ")}`);
  }
  return order;
}

export interface OrderBreach {
  readonly step: string;
  readonly words: string;
}

/**
 * What an order of a sheet breaks, in words; nothing when it can be worked so. Walks the steps and
 * looks at what holds before each.
 * @param done steps already signed, in the order they were
 */
export function checkOrder(
  steps: readonly PlannedStep[],
  start: readonly string[],
): readonly OrderBreach[] {
  const holds = new Set(start);
  const seen = new Set<string>();
  const breaches: OrderBreach[] = [];
  const name = (s: PlannedStep): string =>
    s.axis ? `${s.axis}: ${s.title}` : s.title;
  for (const step of steps) {
    const say = (words: string): void => {
      breaches.push({ step: step.id, words: `“${name(step)}” ${words}` });
    };
    for (const need of step.needs)
      if (!holds.has(need)) say(`comes too early: it needs that ${factWords(need)}.`); // prettier-ignore
    for (const fact of step.without)
      if (holds.has(fact)) say(`cannot be done while ${factWords(fact)}.`);
    for (const id of step.after) {
      const other = steps.find((s) => s.id === id);
      if (other && !seen.has(id)) say(`comes after “${name(other)}”.`);
    }
    if (step.opens) holds.add(step.opens);
    if (step.does) holds.add(step.does);
    if (step.closes) holds.delete(step.closes);
    seen.add(step.id);
  }
  for (const fact of holds)
    if (openFact(fact))
      breaches.push({ step: "", words: `At the end ${factWords(fact)}.` });
  return breaches;
}

/** What holds after some steps of a sheet: where a job stands. */
export function factsAfter(
  steps: readonly PlannedStep[],
  start: readonly string[],
): readonly string[] {
  const holds = new Set(start);
  for (const step of steps) {
    if (step.opens) holds.add(step.opens);
    if (step.does) holds.add(step.does);
    if (step.closes) holds.delete(step.closes);
  }
  return [...holds];
}

/** Links of an axis that a sheet opens, with what retests them. */
export function openedLinks(
  steps: readonly PlannedStep[],
): readonly { readonly fact: string; readonly retest: string | null }[] {
  return steps.flatMap((s) => {
    const open = s.opens ? openFact(s.opens) : undefined;
    if (!open?.link || !s.opens) return [];
    const axis = s.opens.slice(0, s.opens.indexOf(":"));
    return [{ fact: s.opens, retest: open.retest && `${axis}:retested-${open.retest}` }]; // prettier-ignore
  });
}

export { bareName };
