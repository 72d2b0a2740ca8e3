import {
  evenShare,
  isOpen,
  leastGap,
  marginal,
  putOn,
  takeOff,
  type PlanDay,
  type RoundWeights,
  type State,
  type VisitNeed,
} from "./rounds-state";

/** A plan of rounds in the making: on which day each visit stands, and what the days carry by it. */
export class RoundDraft {
  readonly state: State;
  /** Day of each visit; −1 while it has none. */
  readonly dayOf: number[];
  readonly mean: number;
  private readonly mates: readonly (readonly number[])[];
  private readonly gaps: readonly number[];
  private readonly reaches: readonly (readonly [number, number])[];

  constructor(
    readonly visits: readonly VisitNeed[],
    readonly days: readonly PlanDay[],
    readonly w: RoundWeights,
  ) {
    this.state = { load: days.map(() => 0), stops: days.map(() => new Map()), bays: days.map(() => new Map()) };
    this.dayOf = visits.map(() => -1);
    this.mean = evenShare(visits, days);
    this.mates = matesOf(visits);
    this.gaps = visits.map(leastGap);
    this.reaches = visits.map((v) => reach(v, days.length));
  }

  put(i: number, day: number): void {
    if (this.dayOf[i] >= 0) takeOff(this.state, this.visits[i], this.dayOf[i]);
    this.dayOf[i] = day;
    if (day >= 0) putOn(this.state, this.visits[i], day);
  }

  /** May a visit stand on a day: open, and far enough from the other visits to its point? */
  allowed(i: number, d: number): boolean {
    if (!isOpen(this.days, this.visits[i], d)) return false;
    for (const k of this.mates[i]) if (this.dayOf[k] >= 0 && Math.abs(this.dayOf[k] - d) < this.gaps[i]) return false;
    return true;
  }

  /** The day a visit costs least on; −1 where none is open. */
  best(i: number): number {
    const [from, to] = this.reaches[i];
    const near = this.cheapest(i, { from, to, tooNear: false });
    if (near >= 0) return near;
    // Nothing open about when it is due: any day is better than none.
    const any = this.cheapest(i, { from: 0, to: this.days.length - 1, tooNear: false });
    return any >= 0 ? any : this.cheapest(i, { from: 0, to: this.days.length - 1, tooNear: true });
  }

  private cheapest(
    i: number,
    { from, to, tooNear }: { readonly from: number; readonly to: number; readonly tooNear: boolean },
  ): number {
    let day = -1;
    let least = Infinity;
    for (let d = from; d <= to; d += 1) {
      if (tooNear ? !isOpen(this.days, this.visits[i], d) : !this.allowed(i, d)) continue;
      const cost = marginal(this, this.visits[i], d);
      if (cost < least - 1e-9) [day, least] = [d, cost];
    }
    return day;
  }

  /** Tries to move all free visits of a machine from one day to another together: one stop fewer. */
  moveStops(free: readonly number[]): boolean {
    const groups = new Map<string, number[]>();
    for (const i of free)
      if (this.dayOf[i] >= 0) {
        const key = `${this.dayOf[i]} ${this.visits[i].machine}`;
        groups.set(key, [...(groups.get(key) ?? []), i]);
      }
    let moved = false;
    for (const group of groups.values()) {
      const day = this.bestTogether(group);
      if (day === this.dayOf[group[0]]) continue;
      for (const i of group) this.put(i, day);
      moved = true;
    }
    return moved;
  }

  private bestTogether(group: readonly number[]): number {
    const { state, visits, dayOf, reaches } = this;
    const from = dayOf[group[0]];
    for (const i of group) takeOff(state, visits[i], from);
    let [day, least] = [from, this.costTogether(group, from)];
    const low = Math.max(...group.map((i) => reaches[i][0]));
    const high = Math.min(...group.map((i) => reaches[i][1]));
    for (let d = low; d <= high; d += 1) {
      if (d === from || !group.every((i) => this.allowed(i, d))) continue;
      const cost = this.costTogether(group, d);
      if (cost < least - 1e-9) [day, least] = [d, cost];
    }
    for (const i of group) putOn(state, visits[i], from);
    return day;
  }

  private costTogether(group: readonly number[], day: number): number {
    const { state, visits } = this;
    let sum = 0;
    for (const i of group) {
      sum += marginal(this, visits[i], day);
      putOn(state, visits[i], day);
    }
    for (const i of group) takeOff(state, visits[i], day);
    return sum;
  }
}

/** The other visits to the same point, by place in the list. */
function matesOf(visits: readonly VisitNeed[]): readonly (readonly number[])[] {
  const byPoint = new Map<number, number[]>();
  visits.forEach((v, i) => {
    if (v.point === undefined) return;
    const list = byPoint.get(v.point);
    if (list) list.push(i);
    else byPoint.set(v.point, [i]);
  });
  return visits.map((v, i) => (v.point === undefined ? [] : (byPoint.get(v.point) ?? []).filter((k) => k !== i)));
}

/** Days worth trying for a visit: from half its interval early to the end of what is late. */
function reach(visit: VisitNeed, days: number): [number, number] {
  const early = Math.floor(visit.dueDay - Math.max(2, 0.6 * visit.intervalDays));
  const late = Math.ceil(Math.max(visit.dueDay, 0) + 10);
  return [Math.max(0, Math.min(days - 1, early)), Math.min(days - 1, late)];
}
