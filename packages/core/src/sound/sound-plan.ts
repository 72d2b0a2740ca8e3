import { travelPerTurnMm, type AxisConfig } from "../machine/axis";
import { requireBound } from "../quantity";

/** How an axis is run while it is listened to: it stands, drives on, then goes to and fro at one feed. */
export interface SoundPlan {
  readonly stillS: number;
  readonly feedMmMin: number;
  readonly fromMm: number;
  readonly strokeMm: number;
  /** Ways, to and fro alternately. */
  readonly passes: number;
  readonly dwellS: number;
  /** The motor runs uncoupled, as if it drove the axis so: nothing else moves. */
  readonly motorAlone?: boolean | undefined;
}

/** A way at its full feed: when, and which way. */
export interface SoundWay {
  readonly fromS: number;
  readonly toS: number;
  readonly direction: 1 | -1;
}

/** Where in a recording the motion of its plan lies. */
export interface SoundTiming {
  /** When it first sets off, s. */
  readonly startS: number;
  /** From setting off to setting off again, s. */
  readonly eachS: number;
  /** How much louder the ways are than the standing between, dB; what is found under 1 dB is a guess. */
  readonly contrastDb: number;
}

/** Getting up to speed and down again are cut off: so long at either end of a way, s. */
const RAMP_S = 0.25;

/**
 * Seconds of motion at full feed that a plan asks for.
 * @param plan - how the axis is run
 * @returns s
 * @example planSeconds({ stillS: 3, feedMmMin: 6000, fromMm: 0, strokeMm: 200, passes: 6, dwellS: 0.5 }) // 18
 */
export function planSeconds(plan: SoundPlan): number {
  const { stillS, feedMmMin, strokeMm, passes, dwellS } = plan;
  requireBound({ feed: feedMmMin }, feedMmMin > 0, "above 0 mm/min");
  requireBound({ ways: passes }, passes >= 1, "at least 1");
  return stillS + passes * ((60 * strokeMm) / feedMmMin + dwellS);
}

/**
 * The ways of a recording at full feed.
 * @param plan - how the axis was run
 * @param timing - where in the recording that lies
 * @returns each way, without getting up to speed; none where a way is too short
 * @example
 * const plan = { stillS: 3, feedMmMin: 6000, fromMm: 0, strokeMm: 200, passes: 2, dwellS: 0.5 };
 * waysOf(plan, { startS: 3, eachS: 2.6, contrastDb: 9 })[1].fromS // 5.85
 */
export function waysOf(plan: SoundPlan, { startS, eachS }: SoundTiming): readonly SoundWay[] {
  const moving = eachS - plan.dwellS;
  return Array.from({ length: plan.passes }, (_, k): SoundWay => {
    const from = startS + k * eachS;
    return { fromS: from + RAMP_S, toS: from + moving - RAMP_S, direction: k % 2 === 0 ? 1 : -1 };
  }).filter((way) => way.toS - way.fromS > RAMP_S);
}

/** A way shorter than this tells too little of what comes once a turn, s. */
const WAY_S = 2.4;
/** Faster than this few telephones can follow the blows of a bearing, turns of the shaft a second. */
const MOST_TURNS = 25;
/** Longest that a usual run takes in all, s. */
const MOST_S = 58;
/** Ways of a usual run; fewer where it would take too long. */
const WAYS = [6, 4] as const;
const [STILL_S, DWELL_S] = [4, 0.5];

/**
 * A run to listen to that suits an axis: eight tenths of its travel, since what is bad at one place is heard there alone,
 * at the fastest even feed that leaves time to hear it; less only where four ways of it would take over a minute.
 * @param config - configuration
 * @returns the plan
 * @example usualSoundPlan(defaultAxis("vertical-centre", "X")).feedMmMin // 10000
 */
export function usualSoundPlan(config: AxisConfig): SoundPlan {
  const stroke = Math.round(0.8 * config.travelMm);
  const fastest = Math.min(0.7 * config.rapidMmMin, 60 * MOST_TURNS * travelPerTurnMm(config), (60 * stroke) / WAY_S);
  const feedMmMin = fastest > 1000 ? 500 * Math.floor(fastest / 500) : 50 * Math.max(1, Math.floor(fastest / 50));
  const most = (ways: number): number =>
    Math.floor((feedMmMin / 60) * Math.max(0.5, (MOST_S - STILL_S) / ways - DWELL_S));
  const passes = WAYS.find((ways) => most(ways) >= stroke) ?? WAYS[1];
  const strokeMm = Math.min(stroke, most(passes));
  const fromMm = Math.round((config.travelMm - strokeMm) / 2);
  return { stillS: STILL_S, feedMmMin, fromMm, strokeMm, passes, dwellS: DWELL_S };
}
