import {
  axisFromParts,
  FINDINGS,
  sensations,
  soundParts,
  withFaults,
  type AxisConfig,
  type FindingId,
  type VirtualAxis,
} from "@iron/core";
import { verdictOf, type Observation } from "./apart/observer";
import type { Tried, World } from "./diagnosis-case";
import {
  faultsIn,
  FAULT_COUNTS,
  MISSAID,
  oftenIn,
  profileOf,
  SAID_NO,
  standsStill,
  stationLosses,
  U_MM,
  WRITTEN_WRONG,
} from "./diagnosis-world";
import { luckFrom } from "./luck";
import { logStanding } from "./standing-axis";

/** One way an axis of the first world may be, of many that stand for all. */
interface Particle {
  readonly faults: readonly { readonly id: string }[];
  /** Chance that each finding is noticed on one occasion. */
  readonly noticed: Partial<Record<FindingId, number>>;
  /** Log chance of being told yes, no, nothing, by what is asked. */
  readonly said: Float32Array;
  /** What each size reads, mm. */
  readonly reads: Readonly<Record<string, number>>;
  /** The five readings along the travel, mm. */
  readonly profile: readonly number[];
  readonly among: number;
  readonly stands: boolean;
}

const EACH = [60, 96, 6];
const ASKED = FINDINGS.filter((f) => f.asked);
const KINDS = ["whole-chain", "end-float", "nut-flank", "coupling-slip", "housing-shift", "bracket-shift"];
/** How wide an axis that stands for others stands: mm, and as a share of what it reads. */
const NEAR_MM = 0.0012;
const NEAR_SHARE = 0.06;
const known = new Map<AxisConfig, readonly Particle[]>();

/** Φ of Abramowitz and Stegun 7.1.26, from memory: within 2 in 10⁷. */
function phi(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  const erf = 1 - poly * Math.exp(-x * x);
  return 0.5 * (1 + Math.sign(z) * erf);
}

function noticedOf(config: AxisConfig, axis: VirtualAxis): Partial<Record<FindingId, number>> {
  return Object.fromEntries(
    Object.entries(sensations(config, axis)).map(([id, { level, threshold, scatter }]) => [
      id,
      phi((level - threshold) / scatter),
    ]),
  );
}

/** Chances of hearing yes, no and nothing of each thing, one beside the other. */
function saidOf(noticed: Partial<Record<FindingId, number>>): Float32Array {
  return Float32Array.from(
    ASKED.flatMap(({ id, group }) => {
      const there = noticed[id] ?? 0;
      const like = ASKED.filter((o) => o.group === group && o.id !== id);
      const taken = like.reduce((s, o) => s + ((noticed[o.id] ?? 0) * MISSAID) / 2 / like.length, 0);
      const yes = there * (1 - MISSAID) + (1 - there * (1 - MISSAID)) * taken;
      const no = (1 - there) * SAID_NO * (1 - taken);
      return [yes, no, 1 - yes - no].map((p) => Math.log(Math.max(p, 1e-6)));
    }),
  );
}

function particlesOf(config: AxisConfig): readonly Particle[] {
  const there = known.get(config);
  if (there) return there;
  const { uniform: u } = luckFrom(78);
  const faults = faultsIn(config);
  const sets: (readonly { readonly id: string }[])[] = [[], ...faults.map((f) => [f])];
  faults.forEach((a, i) => faults.slice(i + 1).forEach((b) => sets.push([a, b])));
  const particles = sets.flatMap((set) =>
    Array.from({ length: EACH[set.length] }, (_, i): Particle => {
      const ids = set.map((f) => f.id);
      // In either order, as they are drawn.
      const parts = withFaults(soundParts(u, config), { faults: i % 2 ? ids : [...ids].reverse(), u, axis: config });
      const axis = axisFromParts(config, parts, 1);
      const noticed = noticedOf(config, axis);
      const losses = stationLosses(axis, KINDS, axis.travelMm / 2);
      const reads = Object.fromEntries(KINDS.map((kind, k) => [kind, losses[k]]));
      // Only a worn screw loses more in one place than in another.
      const profile = profileOf(axis, (x) => (axis.wear ? stationLosses(axis, ["whole-chain"], x)[0] : losses[0]));
      const stands = standsStill(axis);
      return { faults: set, noticed, said: saidOf(noticed), reads, profile, among: EACH[set.length], stands };
    }),
  );
  known.set(config, particles);
  return particles;
}

function logNormal(x: number, at: number, wide: number): number {
  return -0.5 * ((x - at) / wide) ** 2 - Math.log(wide);
}

const middle = (p: readonly number[]): number => Math.max(...p.slice(1, 4)) - (p[0] + p[4]) / 2;

/** Log likelihood of what a test answered, for an axis that is so. */
function logAnswer(answer: Tried, { noticed, reads, profile, stands }: Particle): number {
  const still = logStanding(answer, stands);
  if (still !== null) return still;
  const along = answer.reports.some((r) => r.finding === "profile-middle");
  let log = 0;
  for (const { finding: id, present } of answer.reports) {
    const there = id === "profile-middle" ? phi((middle(profile) - 3 * U_MM) / (1.2 * U_MM)) : (noticed[id] ?? 0);
    const yes = there * (1 - WRITTEN_WRONG) + (1 - there) * WRITTEN_WRONG;
    log += Math.log(present ? yes : 1 - yes);
  }
  if (answer.magnitude) {
    const at = along ? Math.max(...profile) + 0.7 * U_MM : reads[answer.magnitude.kind];
    const { reversalValueMm } = answer.magnitude;
    log += logNormal(reversalValueMm, at, Math.hypot(U_MM, NEAR_MM, NEAR_SHARE * at));
  }
  return log;
}

/**
 * What an observer who knows the first world’s own odds says of an axis of it: every way it may be, weighed by what was
 * told and answered.
 * @param world - the axis, with what was told
 * @param answers - what its tests answered
 * @returns the faults named, likeliest first, and the chance that there is none
 */
export function observedFirst(world: World, answers: readonly Tried[]): Observation {
  const heard = ASKED.map(({ id }) => {
    const one = world.reports.find((r) => r.finding === id);
    return one === undefined ? 2 : one.present ? 0 : 1;
  });
  const particles = particlesOf(world.config);
  const often = new Map(faultsIn(world.config).map((f) => [f.id, oftenIn(f)]));
  const sum = [...often.values()].reduce((a, b) => a + b, 0);
  const prior = (set: Particle["faults"]): number => {
    const [a, b] = set.map((f) => (often.get(f.id) ?? 0) / sum);
    if (set.length === 0) return FAULT_COUNTS[0];
    return set.length === 1 ? FAULT_COUNTS[1] * a : FAULT_COUNTS[2] * a * b * (1 / (1 - a) + 1 / (1 - b));
  };
  const logs = particles.map((one) => {
    let log = Math.log(prior(one.faults) / one.among);
    heard.forEach((answer, i) => (log += one.said[3 * i + answer]));
    for (const answer of answers) log += logAnswer(answer, one);
    return log;
  });
  return verdictOf(particles, logs);
}
