import type { Feedback, LossLimits } from "../machine/axis";
import { lossState, lossText } from "../measure/reversal";
import type { AxisState } from "../quantity";
import { soundDue, type SoundTimes } from "../sound";

/** What a machine may want of whoever walks the floor, the most pressing first. */
export const FLOOR_CALLS = [
  "job-at-work",
  "case-open",
  "over-limit",
  "check-due",
  "cannot-tell",
  "sounds-louder",
  "nears-limit",
  "past-leave",
  "test-unfinished",
  "lubrication",
  "never-measured",
  "record-it",
  "no-axes",
  "scales",
  "nothing",
] as const;
export type FloorCallCode = (typeof FLOOR_CALLS)[number];

/** The last of them that makes a machine one that wants somebody; what follows can wait. */
const LAST_WANT: FloorCallCode = "past-leave";
/** A limit reached within this many days is worth saying today (common practice, no source). */
const NEARS_DAYS = 540;
const DAY_MS = 86_400_000;

export interface FloorCallAxis extends Pick<LossLimits, "leaveMm" | "repairMm"> {
  readonly id: number;
  readonly feedback: Feedback;
  readonly last: { readonly reversalValueMm: number; readonly expandedMm: number | null } | null;
  readonly trend: { readonly significant: boolean; readonly reachesLimitAt: string | null } | null;
  readonly openRunId: number | null;
  /** When it was recorded, and whether it has grown louder; null where it was neither recorded nor worked on. */
  readonly sound: (SoundTimes & { readonly grown: object | null }) | null;
}

export interface FloorCallMachine<A extends FloorCallAxis> {
  readonly axes: readonly A[];
  /** Jobs that are open, or signed off with a first check that is due. */
  readonly jobs: readonly { readonly id: number; readonly checkOn: string | null }[];
  readonly openCases: readonly { readonly id: number; readonly axisId: number }[];
  /** What lubrication wants said; empty for nothing. */
  readonly lubrication: string;
}

/** The call, and what it is about. */
export interface FloorCall<A extends FloorCallAxis> {
  readonly code: FloorCallCode;
  readonly axis: A | null;
  /** Of a job or a case. */
  readonly id: number | null;
  /** The axis is past what can be left for sure, or perhaps. */
  readonly sure: boolean;
}

/** State of an axis by its last reversal value; unknown where it was never measured. */
export const floorState = (axis: FloorCallAxis): AxisState => (axis.last ? lossState(axis.last, axis) : "unknown");

/**
 * What is said first of a machine: work that is under way, then what was found, then what is not known.
 *
 * @param machine - its axes with their last reversal values in mm, open jobs and cases
 * @param now - the moment of looking: a limit that is far off says nothing yet
 * @returns a code, and the axis or job it is about
 * @example floorCall({ axes: [], jobs: [], openCases: [], lube: "" }, new Date()).code // "no-axes"
 */
export function floorCall<A extends FloorCallAxis>(machine: FloorCallMachine<A>, now: Date): FloorCall<A> {
  const call = (code: FloorCallCode, about: Partial<FloorCall<A>> = {}): FloorCall<A> => ({
    code,
    axis: null,
    id: null,
    sure: true,
    ...about,
  });
  const { axes } = machine;
  const job = machine.jobs.find((j) => !j.checkOn) ?? machine.jobs.at(0);
  if (job) return call(job.checkOn ? "check-due" : "job-at-work", { id: job.id });
  const open = machine.openCases.at(0);
  const about = axes.find((a) => a.id === open?.axisId);
  if (open && about) return call("case-open", { axis: about, id: open.id });
  const measured = measuredCall(axes, now);
  if (measured) return call(measured.code, measured);
  const unfinished = axes.find((a) => a.openRunId !== null);
  if (unfinished) return call("test-unfinished", { axis: unfinished });
  if (machine.lubrication) return call("lubrication");
  const unmeasured = axes.find((a) => !a.last);
  if (unmeasured) return call("never-measured", { axis: unmeasured });
  const unheard = axes.find((a) => a.sound && soundDue(a.sound, now));
  if (unheard) return call("record-it", { axis: unheard });
  if (axes.length === 0) return call("no-axes");
  return call(axes.every((a) => a.feedback === "scale") ? "scales" : "nothing");
}

/** What the last reversal values and recordings say, the worst first. */
function measuredCall<A extends FloorCallAxis>(
  axes: readonly A[],
  now: Date,
): { readonly code: FloorCallCode; readonly axis: A; readonly sure: boolean } | null {
  const over = axes.find((a) => a.last && floorState(a) === "act");
  if (over) return { code: "over-limit", axis: over, sure: true };
  const untold = axes.find((a) => a.last && floorState(a) === "unknown");
  if (untold) return { code: "cannot-tell", axis: untold, sure: true };
  const louder = axes.find((a) => a.sound?.grown);
  if (louder) return { code: "sounds-louder", axis: louder, sure: true };
  const grows = axes.find((a) => nearsLimit(a, now));
  if (grows) return { code: "nears-limit", axis: grows, sure: true };
  const sure = axes.find((a) => lossText(a.last, a) === "watch");
  const past = sure ?? axes.find((a) => floorState(a) === "watch");
  return past ? { code: "past-leave", axis: past, sure: past === sure } : null;
}

/** Does its loss grow, beyond chance, to its limit before long? */
function nearsLimit({ trend }: FloorCallAxis, now: Date): boolean {
  if (!trend?.significant || !trend.reachesLimitAt) return false;
  return Date.parse(trend.reachesLimitAt) - now.getTime() < NEARS_DAYS * DAY_MS;
}

/** How pressing a call is: 0 for the most. */
export const floorRank = (code: FloorCallCode): number => FLOOR_CALLS.indexOf(code);

/** May it wait for another day? */
export const canWait = (code: FloorCallCode): boolean => floorRank(code) > floorRank("test-unfinished");

/** Does a machine with this call want somebody? */
export const wantsSomebody = (code: FloorCallCode): boolean => floorRank(code) <= floorRank(LAST_WANT);
