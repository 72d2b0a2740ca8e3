import { leftOutCost, marginal, type FilledDays, type VisitNeed } from "./rounds-state";

export const MOST_TRIES = 20_000;
/** How much worse a step may be at the beginning, in the plan’s own cost; cools to nothing. */
const WARM = 4;

interface Search extends FilledDays {
  readonly visits: readonly VisitNeed[];
  readonly dayOf: number[];
  readonly free: readonly number[];
  readonly put: (i: number, day: number) => void;
  readonly best: (i: number) => number;
  readonly allowed: (i: number, day: number) => boolean;
  readonly cancelled?: () => boolean;
  readonly progress?: (part: number) => void;
  readonly tries: number;
  readonly seed: number;
}

/**
 * Takes a few visits out that belong together (one machine, or one day) and puts them back where
 * they cost least, in another order; keeps what is no dearer (ruin and recreate, Schrimpf et al.
 * 2000). Chance comes from a fixed seed: the same shop gives the same plan.
 * @param s - the plan, and how long to search
 * @example ruinAndRecreate({ free: [], seed: 1 }) // undefined
 */
export function ruinAndRecreate(s: Search): void {
  let { seed } = s;
  const draw = (n: number): number => {
    seed = (seed * 48_271) % 2_147_483_647;
    return seed % n;
  };
  if (s.free.length === 0) return;
  const byMachine = new Map<number, number[]>();
  for (const i of s.free) byMachine.set(s.visits[i].machine, [...(byMachine.get(s.visits[i].machine) ?? []), i]);
  const cost = (i: number, day: number): number =>
    day < 0 ? leftOutCost(s.visits[i], s.days.length, s.w) : marginal(s, s.visits[i], day);
  let total = 0;
  let least = 0;
  let kept = [...s.dayOf];
  for (let t = 0; t < s.tries; t += 1) {
    if (t % 500 === 0) {
      if (s.cancelled?.()) break;
      s.progress?.(t / s.tries);
    }
    const first = s.free[draw(s.free.length)];
    const mates = (byMachine.get(s.visits[first].machine) ?? []).filter((i) => i !== first);
    const out = [first];
    const many = draw(5);
    for (let k = 0; k < many; k += 1) {
      const mate = mates.length && draw(3) > 0 ? mates[draw(mates.length)] : s.free[draw(s.free.length)];
      if (!out.includes(mate)) out.push(mate);
    }
    const were = out.map((i) => s.dayOf[i]);
    let gain = 0;
    out.forEach((i, k) => {
      s.put(i, -1);
      gain += cost(i, were[k]);
    });
    let spent = 0;
    // Now and then the whole group goes to one day: a stop moved or made.
    const together = draw(3) === 0 ? draw(s.days.length) : -1;
    for (const i of out) {
      const ok = together >= 0 && s.allowed(i, together);
      const day = ok ? together : s.best(i);
      spent += cost(i, day);
      s.put(i, day);
    }
    const worse = spent - gain;
    const warmth = WARM * (1 - t / s.tries) ** 2;
    if (worse <= 1e-9 || draw(1e6) / 1e6 < Math.exp(-worse / Math.max(warmth, 1e-6))) {
      total += worse;
      if (total < least - 1e-9) {
        least = total;
        kept = [...s.dayOf];
      }
      continue;
    }
    out.forEach((i) => s.put(i, -1));
    out.forEach((i, k) => s.put(i, were[k]));
  }
  kept.forEach((day, i) => {
    if (s.dayOf[i] !== day) s.put(i, day);
  });
}
