import type { AxisConfig } from "@iron/core";
import { luckFrom } from "../luck";
import type { Condition } from "./condition";
import type { Fault } from "./faults.table";
import { logAnswer, type Answer } from "./instruments";
import { PEOPLE, saying, TOLD } from "./people";
import { conditionWith, FAULT_COUNTS, faultsOn, oftenOn, type Scene } from "./scene";
import { signal } from "./signals";

/** One way an axis may be, of many that stand for all. */
interface Particle {
  readonly faults: readonly Fault[];
  readonly condition: Condition;
  /** Log chance of saying yes, no, nothing, by person and thing. */
  readonly said: Float32Array;
  /** How many stand for the same faults. */
  readonly among: number;
}

export interface Observation {
  readonly named: readonly string[];
  readonly none: number;
}

const EACH = { none: 60, one: 160, two: 16 };
const known = new Map<AxisConfig, readonly Particle[]>();

function particlesOf(config: AxisConfig): readonly Particle[] {
  const there = known.get(config);
  if (there) return there;
  const luck = luckFrom(77);
  const u = (): number => luck.uniform();
  const faults = faultsOn(config);
  const sets: (readonly Fault[])[] = [[], ...faults.map((f) => [f])];
  faults.forEach((a, i) => faults.slice(i + 1).forEach((b) => sets.push([a, b])));
  const particles = sets.flatMap((set) => {
    const among = [EACH.none, EACH.one, EACH.two][set.length];
    return Array.from({ length: among }, (): Particle => {
      const condition = conditionWith(config, set, u);
      const said = Float32Array.from(
        PEOPLE.flatMap((person) =>
          TOLD.flatMap((id) => {
            const { yes, no, nothing } = saying(person, { id, strength: signal(id, condition, config) });
            return [Math.log(yes + 1e-9), Math.log(no + 1e-9), Math.log(nothing + 1e-9)];
          }),
        ),
      );
      return { faults: set, condition, said, among };
    });
  });
  known.set(config, particles);
  return particles;
}

/**
 * The verdict of an observer who knows the true likelihoods: every way an axis may be, weighed by what was told and
 * answered. What is beyond it is beyond any diagnosis.
 * @returns the faults named, likeliest first, and the chance that there is none
 */
export function observed(
  scene: Pick<Scene, "config" | "context" | "reports">,
  answers: readonly Answer[],
): Observation {
  const { config, context, reports } = scene;
  const particles = particlesOf(config);
  const heard = TOLD.map((id) => {
    const one = reports.find((r) => r.finding === id && r.source === "symptom");
    return one === undefined ? 2 : one.present ? 0 : 1;
  });
  const faults = faultsOn(config);
  const sum = faults.reduce((s, f) => s + oftenOn(f, context), 0);
  const prior = (set: readonly Fault[]): number => {
    const [a, b] = set.map((f) => oftenOn(f, context) / sum);
    if (set.length === 0) return FAULT_COUNTS[0];
    return set.length === 1 ? FAULT_COUNTS[1] * a : FAULT_COUNTS[2] * a * b * (1 / (1 - a) + 1 / (1 - b));
  };
  const logs = particles.map(({ faults: set, condition, said, among }) => {
    let log = Math.log(prior(set) / among);
    const byPerson = PEOPLE.map(({ often }, who) => {
      let sumOfLogs = Math.log(often);
      heard.forEach((answer, i) => (sumOfLogs += said[(who * TOLD.length + i) * 3 + answer]));
      return sumOfLogs;
    });
    const most = Math.max(...byPerson);
    log += most + Math.log(byPerson.reduce((s, l) => s + Math.exp(l - most), 0));
    for (const answer of answers) log += logAnswer(answer, config, condition);
    return log;
  });
  return verdictOf(particles, logs);
}

/** The verdict of particles by their log weights. */
export function verdictOf(
  particles: readonly { readonly faults: readonly { readonly id: string }[] }[],
  logs: readonly number[],
): Observation {
  const most = Math.max(...logs);
  const bySet = new Map<string, number>();
  const byFault = new Map<string, number>();
  let none = 0;
  let all = 0;
  particles.forEach(({ faults }, i) => {
    const p = Math.exp(logs[i] - most);
    all += p;
    const key = faults.map((f) => f.id).join("+");
    bySet.set(key, (bySet.get(key) ?? 0) + p);
    if (faults.length === 0) none += p;
    for (const { id } of faults) byFault.set(id, (byFault.get(id) ?? 0) + p);
  });
  const best = (map: ReadonlyMap<string, number>): readonly [string, number] =>
    [...map].reduce((a, b) => (b[1] > a[1] ? b : a));
  const [first, p] = best(byFault);
  if (p <= none) return { named: [], none: none / all };
  // The likeliest fault first, and what is likeliest to be there with it.
  const [set] = best(bySet);
  return { named: [first, ...set.split("+").filter((id) => id && id !== first)], none: none / all };
}
