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
  withFaults,
  type AxisConfig,
  type FindingId,
  type LocateTest,
  type Magnitude,
  type Report,
  type VirtualAxis,
} from "@iron/core";
import { MACHINES } from "../apps/server/src/demo/shop";
import type { World } from "./diagnosis-case";
import { luckFrom, type Luck } from "./luck";

/** How many faults the drawn axes have. */
const FAULT_COUNTS = [0.12, 0.73, 0.15];
export const CONFIGS = MACHINES.flatMap((m) => m.axes.map((a) => a.config));

function drawFault(config: AxisConfig, luck: Luck, besides: string[]): string {
  const there = CAUSES.filter((c) => causeFits(config, c) && !(c.normal && c.share) && !besides.includes(c.id));
  // Flatter than the catalogue’s own priors, so that they are not simply right.
  const weights = there.map((c) => Math.sqrt(c.prior));
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
    config,
    context: UNKNOWN_CONTEXT,
    faults,
    reports,
    seed,
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
      if (luck.uniform() >= 1 / 8) say(f.id, true);
      else if (luck.uniform() < 0.5) {
        const like = FINDINGS.filter((o) => o.asked && o.group === f.group && o.id !== f.id);
        if (like.length) say(like[Math.floor(luck.uniform() * like.length)].id, true);
      }
    } else if (luck.uniform() < 0.6) say(f.id, false);
  }
  return reports;
}

/** Lost motion at a station by moving the virtual axis to and fro, mm. */
function stationLoss(axis: VirtualAxis, kind: string, at: number): number {
  const station = (kind === "whole-chain" ? "member" : kind) as Parameters<typeof stationPosition>[2];
  const go = (over: number): number => {
    const past = commandAxis(axis, restingState(axis, at), at + over);
    const away = commandAxis(axis, past, at + 2 * over);
    return stationPosition(axis, commandAxis(axis, away, at), station);
  };
  const over = Math.min(10, axis.travelMm / 10);
  return go(over) - go(-over);
}

const U_MM = 0.0009;

/** Does a test on the axis: its findings with their own scatter, its size with noise. */
function doTest(
  config: AxisConfig,
  axis: VirtualAxis,
  { test, luck }: { readonly test: LocateTest; readonly luck: Luck },
): { reports: Report[]; magnitude: Magnitude | null } {
  const reports: Report[] = [];
  let profile: number[] | null = null;
  const noisy = (kind: string, at: number): number => stationLoss(axis, kind, at) + U_MM * luck.normal();
  if (test.id === "travel-profile")
    profile = [0.12, 0.3, 0.5, 0.7, 0.88].map((x) => noisy("whole-chain", x * axis.travelMm));
  for (const id of findingsOf(config, test)) {
    const present =
      id === "profile-middle" && profile
        ? Math.max(...profile.slice(1, 4)) - (profile[0] + profile[4]) / 2 > 3 * U_MM
        : notices(config, { axis, id: finding(id).id, normal: luck.normal });
    // A hand slips, a note is mixed up: two results in a hundred are written down wrong.
    reports.push({ finding: id, present: luck.uniform() < 0.02 ? !present : present, source: "test" });
  }
  const kind = MAGNITUDES.find((m) => m === test.magnitude);
  if (!kind) return { reports, magnitude: null };
  const reversalValueMm = profile ? Math.max(...profile) : noisy(kind, axis.travelMm / 2);
  return { reports, magnitude: { kind, reversalValueMm, uMm: U_MM } };
}
