import type { AxisConfig } from "../machine/axis";
import { minuteCost, type DecisionTerms } from "./decision-terms";
import type { Posterior } from "./infer";

/** What is rarer than this is not reckoned with when remedies are put in order. */
const UNLIKELY = 1e-4;

/**
 * What mending is expected to cost from here without another test: remedies are tried in the order of probability over
 * cost until all that is wrong is mended (troubleshooting under uncertainty as in Heckerman, Breese & Rommelse 1995),
 * handing the machine back as sound among them. Asked thousands of times in one ranking: accounts lie flat in memory, and
 * nothing is made anew for a question.
 */
export class Mending {
  /** Causes of all accounts one after the other, and where those of each begin. */
  private readonly members: Int16Array;
  private readonly begins: Int32Array;
  /** Weight of each cause, the last that of nothing wrong. */
  private readonly weight: Float64Array;
  /** What has been spent when a cause is mended; below 0 where it is not reached. */
  private readonly reached: Float64Array;
  private readonly order: Int16Array;
  private readonly sorted: Float64Array;
  private readonly costs: readonly number[];
  private readonly wrong: number;
  private readonly callIn: number;
  private readonly misnamed: number;
  /** Chance of each cause by the weights asked for last. */
  readonly chances: Float64Array;

  /**
   * @param posterior - accounts and causes
   * @param options - the axis; `costs`: of each remedy, the last of handing the machine back; `terms`: what minutes cost
   * @example new Mending(posterior, { axis, costs, terms }).cost(weights) // 0 where nothing weighs anything
   */
  constructor(
    { hypotheses, causes }: Pick<Posterior, "hypotheses" | "causes">,
    options: { readonly axis: AxisConfig; readonly costs: readonly number[]; readonly terms: DecisionTerms },
  ) {
    const { axis, costs, terms } = options;
    this.costs = costs;
    this.members = Int16Array.from(hypotheses.flatMap((h) => h.members));
    this.begins = new Int32Array(hypotheses.length + 1);
    hypotheses.forEach((h, i) => (this.begins[i + 1] = this.begins[i] + h.members.length));
    const n = causes.length;
    this.weight = new Float64Array(n + 1);
    this.reached = new Float64Array(n + 1);
    this.order = new Int16Array(n + 1);
    this.sorted = new Float64Array(n + 1);
    this.chances = new Float64Array(n);
    this.wrong = minuteCost(axis, terms.wrongMinutes);
    this.callIn = minuteCost(axis, terms.callInMinutes);
    this.misnamed = minuteCost(axis, terms.misnamedMinutes);
  }

  /**
   * @param weights - of the accounts, need not sum to one
   * @returns expected cost, in the shop’s money
   */
  cost(weights: Float64Array): number {
    const { members, begins, reached } = this;
    const total = this.weigh(weights);
    if (total <= 0) return 0;
    const never = this.spend(total) + this.callIn;
    const n = this.weight.length - 1;
    const sound = reached[n] < 0 ? never : reached[n];
    let expected = 0;
    for (let i = 0; i < weights.length; i += 1) {
      const w = weights[i];
      if (w === 0) continue;
      const end = begins[i + 1];
      let at = begins[i] === end ? sound : 0;
      for (let k = begins[i]; k < end; k += 1) {
        const spent = reached[members[k]];
        const here = spent < 0 ? never : spent;
        if (here > at) at = here;
      }
      expected += w * at;
    }
    // Named first is what is likeliest to be there, alone or with another.
    let named = 0;
    for (const w of this.weight) if (w > named) named = w;
    return (expected + this.misnamed * (total - Math.min(total, named))) / total;
  }

  private weigh(weights: Float64Array): number {
    const { members, begins, weight, chances } = this;
    const n = weight.length - 1;
    weight.fill(0);
    let total = 0;
    for (let i = 0; i < weights.length; i += 1) {
      const w = weights[i];
      if (w === 0) continue;
      total += w;
      const end = begins[i + 1];
      if (begins[i] === end) weight[n] += w;
      for (let k = begins[i]; k < end; k += 1) weight[members[k]] += w;
    }
    for (let i = 0; i < n; i += 1) chances[i] = total > 0 ? weight[i] / total : 0;
    return total;
  }

  /** Puts the remedies in order and adds up what each is reached at. */
  private spend(total: number): number {
    const { weight, reached, order, sorted, costs } = this;
    let count = 0;
    for (let i = 0; i < weight.length; i += 1) {
      reached[i] = -1;
      if (weight[i] <= UNLIKELY * total) continue;
      const worth = weight[i] / costs[i];
      // What is likelier for its cost comes before; of equals the first in the list.
      let at = count;
      for (; at > 0 && sorted[at - 1] < worth; at -= 1) {
        sorted[at] = sorted[at - 1];
        order[at] = order[at - 1];
      }
      sorted[at] = worth;
      order[at] = i;
      count += 1;
    }
    let sum = 0;
    for (let place = 0; place < count; place += 1) {
      const i = order[place];
      sum += costs[i] + (place > 0 ? this.wrong : 0);
      reached[i] = sum;
    }
    return sum;
  }
}
