import {
  axisFromParts,
  CAUSES,
  causeFits,
  commandAxis,
  finding,
  FINDINGS,
  findingsOf,
  MAGNITUDES,
  notices,
  restingState,
  soundParts,
  stationPosition,
  UNKNOWN_CONTEXT,
  windUpMm,
  withFaults,
  type AxisConfig,
  type Cause,
  type FindingId,
  type LocateTest,
  type Report,
  type VirtualAxis,
} from "@iron/core";
import { MACHINES } from "../apps/server/src/demo/shop";
import type { Tried, World } from "./diagnosis-case";
import { luckFrom, type Luck } from "./luck";
import { answerStanding } from "./standing-axis";

/** How many faults the drawn axes have. */
export const FAULT_COUNTS = [0.12, 0.73, 0.15];
/** Share of what is noticed that is left out or taken for another of its kind, half of them each. */
export const MISSAID = 1 / 8;
/** Share of what is not noticed that is denied. */
export const SAID_NO = 0.6;
/** Results of a test that are written down wrong. */
export const WRITTEN_WRONG = 0.02;
export const CONFIGS = MACHINES.flatMap((m) => m.axes.map((a) => a.config));

/** What may be wrong with an axis of this world. */
export const faultsIn = (config: AxisConfig): Cause[] =>
  CAUSES.filter((c) => causeFits(config, c) && !(c.normal && c.share));

/** How often a cause is met here: flatter than the catalogue’s own priors, so that they are not simply right. */
export const oftenIn = (cause: Cause): number => Math.sqrt(cause.prior);

function drawFault(config: AxisConfig, luck: Luck, besides: string[]): string {
  const there = faultsIn(config).filter((c) => !besides.includes(c.id));
  const weights = there.map(oftenIn);
  let at = luck.uniform() * weights.reduce((a, b) => a + b, 0);
  const index = weights.findIndex((w) => (at -= w) < 0);
  return there[Math.max(0, index)].id;
}

/** One broken (or sound) axis of the world that stands on the virtual axis. */
export function drawWorld(seed: number): World {
  const luck = luckFrom(seed);
  const config = CONFIGS[seed % CONFIGS.length];
  const draw = luck.uniform();
  const count = draw < FAULT_COUNTS[0] ? 0 : draw < FAULT_COUNTS[0] + FAULT_COUNTS[1] ? 1 : 2;
  const faults: string[] = [];
  for (let i = 0; i < count; i += 1) faults.push(drawFault(config, luck, faults));
  const parts = withFaults(soundParts(luck.uniform, config), { faults, u: luck.uniform, axis: config });
  const axis = axisFromParts(config, parts, seed);
  const reports = told(config, axis, luck);
  return {
    parts,
    config,
    context: UNKNOWN_CONTEXT,
    faults,
    reports,
    seed,
    lostMm: axis.links.reduce((sum, l) => sum + l.deadBandMm, axis.wear?.extraMm ?? 0) + windUpMm(config),
    doTest: (t, l) => doTest(config, axis, { test: t, luck: l }),
  };
}

/** What the technician says: one symptom in eight is left out or taken for another of its kind. */
function told(config: AxisConfig, axis: VirtualAxis, luck: Luck): Report[] {
  const reports: Report[] = [];
  const say = (id: FindingId, present: boolean): void => {
    if (!reports.some((r) => r.finding === id)) reports.push({ finding: id, present, source: "symptom" });
  };
  for (const f of FINDINGS) {
    if (!f.asked) continue;
    if (notices(config, { axis, id: f.id, normal: luck.normal })) {
      if (luck.uniform() >= MISSAID) say(f.id, true);
      else if (luck.uniform() < 0.5) {
        const like = FINDINGS.filter((o) => o.asked && o.group === f.group && o.id !== f.id);
        if (like.length) say(like[Math.floor(luck.uniform() * like.length)].id, true);
      }
    } else if (luck.uniform() < SAID_NO) say(f.id, false);
  }
  return reports;
}

/** Lost motion at each station by moving the virtual axis to and fro, mm. */
export function stationLosses(axis: VirtualAxis, kinds: readonly string[], at: number): number[] {
  const go = (over: number): ReturnType<typeof restingState> => {
    const past = commandAxis(axis, restingState(axis, at), at + over);
    return commandAxis(axis, commandAxis(axis, past, at + 2 * over), at);
  };
  const over = Math.min(10, axis.travelMm / 10);
  const [up, down] = [go(over), go(-over)];
  return kinds.map((kind) => {
    const station = (kind === "whole-chain" ? "member" : kind) as Parameters<typeof stationPosition>[2];
    return stationPosition(axis, up, station) - stationPosition(axis, down, station);
  });
}

export const U_MM = 0.0009;

/** Readings at five places along the travel, mm. */
export const profileOf = (axis: VirtualAxis, readAt: (mm: number) => number): number[] =>
  [0.12, 0.3, 0.5, 0.7, 0.88].map((x) => readAt(x * axis.travelMm));

/** Something at the control holds it. */
export const standsStill = ({ parts }: VirtualAxis): boolean =>
  (parts?.overrideZero ?? 0) > 0 || (parts?.interlockOpen ?? 0) > 0;

/** Does a test on the axis: its findings with their own scatter, its size with noise. */
function doTest(
  config: AxisConfig,
  axis: VirtualAxis,
  { test, luck }: { readonly test: LocateTest; readonly luck: Luck },
): Tried {
  const still = answerStanding(test, standsStill(axis));
  if (still) return still;
  const reports: Report[] = [];
  let profile: number[] | null = null;
  const noisy = (kind: string, at: number): number => stationLosses(axis, [kind], at)[0] + U_MM * luck.normal();
  if (test.id === "travel-profile") profile = profileOf(axis, (mm) => noisy("whole-chain", mm));
  for (const id of findingsOf(config, test)) {
    const present =
      id === "profile-middle" && profile
        ? Math.max(...profile.slice(1, 4)) - (profile[0] + profile[4]) / 2 > 3 * U_MM
        : notices(config, { axis, id: finding(id).id, normal: luck.normal });
    // A hand slips, a note is mixed up: two results in a hundred are written down wrong.
    reports.push({ finding: id, present: luck.uniform() < WRITTEN_WRONG ? !present : present, source: "test" });
  }
  const kind = MAGNITUDES.find((m) => m === test.magnitude);
  if (!kind) return { test: test.id, reports, magnitude: null };
  const reversalValueMm = profile ? Math.max(...profile) : noisy(kind, axis.travelMm / 2);
  return { test: test.id, reports, magnitude: { kind, reversalValueMm, uMm: U_MM } };
}
