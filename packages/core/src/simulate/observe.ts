import type { AxisConfig } from "../machine/axis";
import type { FindingId } from "../measure/findings";
import { frictionOf } from "./condition";
import type { PartsCondition } from "./parts-condition";
import { leanOf } from "./shim";
import { SOUND_FRICTION_N } from "./sound-friction";
import { trueReversal, type VirtualAxis } from "./virtual-axis";

/**
 * What a person or an instrument would notice on these parts: for each finding a level that grows
 * with its physical source, the level at which it is noticed, and how much that varies from one
 * occasion to the next. It is noticed when level + scatter × normal > threshold.
 */
interface Sensation {
  readonly level: number;
  readonly threshold: number;
  readonly scatter: number;
}

/** Grows to 1 as `x` reaches `full`, and stays there. */
function part(x: number | undefined, full: number): number {
  return Math.min(1, Math.max(0, (x ?? 0) / full));
}

function sense(level: number, threshold: number, scatter: number): Sensation {
  return { level, threshold, scatter };
}

function noises(c: PartsCondition): Partial<Record<FindingId, Sensation>> {
  const gap = (c.retainerGapMm ?? 0) + (c.lockNutGapMm ?? 0) + (c.bearingGapMm ?? 0);
  const loose =
    (c.couplingSlipMm ?? 0) +
    (c.bracketSlipMm ?? 0) +
    gap +
    (c.housingSlipMm ?? 0) +
    (c.flangeSlipMm ?? 0) +
    (c.clampSlipMm ?? 0) +
    0.2 * (c.meshWearMm ?? 0) +
    0.3 * (c.nutGapMm ?? 0);
  // Levels in dB over the quiet axis; an ear in a shop notices some 20 of them.
  return {
    rumble: sense(
      48 * part(c.bearingPitting, 0.7) +
        45 * part(c.motorPitting, 0.7) +
        24 * part(c.supportPitting, 0.8) +
        26 * part(gap, 0.035) +
        8 * part(c.bearingOverN, 500),
      20,
      5,
    ),
    howl: sense(34 * part(c.screwWearMm, 0.035) + 34 * part(c.nutGapMm, 0.045), 20, 5),
    rattle: sense(45 * part(c.nutReturns, 0.7), 20, 5),
    grit: sense(40 * part(c.nutDirt, 0.7) + 14 * part(c.chipsN, 200), 20, 5),
    // The member’s weight holds a broken carriage together: it is quiet until it is unloaded.
    "carriage-click": sense(20 * part(c.carriageBroken, 1), 20, 7),
    "carriage-broken": sense(45 * part(c.carriageBroken, 0.8), 20, 5),
    groan: sense(42 * part(c.dryness, 0.8) + 12 * part(c.gibTightN, 400), 20, 5),
    knock: sense(30 * part(loose, 0.05), 18, 7),
    "motor-noise": sense(45 * part(c.motorPitting, 0.7), 18, 4),
    "grind-still": sense(40 * (c.spindleSensor ?? 0), 20, 4),
    "click-descent": sense(40 * (c.regenClick ?? 0), 20, 4),
  };
}

function binding(config: AxisConfig, c: PartsCondition): Partial<Record<FindingId, Sensation>> {
  const sound = c.frictionN ?? SOUND_FRICTION_N;
  const friction = frictionOf(c) / sound;
  const gravity = config.orientation !== "horizontal";
  return {
    "tight-all": sense(friction, 1.75, 0.2),
    "tight-end": sense((c.misalignN ?? 0) / sound, 0.55, 0.12),
    "end-walks": sense(((c.misalignN ?? 0) + 0.5 * (c.bendN ?? 0)) / sound, 1.5, 0.4),
    "dragbrake-fitted": sense(gravity ? part(c.dragBrakeN, 50) : 0, 0.5, 0.1),
    "tight-turn": sense(((c.bendN ?? 0) + (c.couplingOffN ?? 0)) / sound, 0.35, 0.08),
    "tight-spot": sense(
      ((c.chipsN ?? 0) + (c.rackSpotN ?? 0) + 90 * (c.carriageBroken ?? 0) + 50 * (c.nutDirt ?? 0)) / sound,
      0.55,
      0.12,
    ),
    "tight-one-way": sense(gravity ? ((c.dragBrakeN ?? 0) + 0.8 * Math.abs(c.counterOffN ?? 0)) / sound : 0, 0.8, 0.15),
    stalls: sense(friction + 2 * part(c.stallMargin, 1), 2.4, 0.25),
    "hot-end": sense(
      part(c.bearingOverN, 350) + 0.3 * part(c.misalignN, 300) + 0.25 * part(c.couplingOffN, 120),
      0.5,
      0.12,
    ),
    "gravity-off": sense(gravity ? Math.abs(c.counterOffN ?? 0) + (c.dragBrakeN ?? 0) / 4 : 0, 60, 12),
    "motor-heavy": sense(part(c.brakeDragN, 120), 0.5, 0.12),
  };
}

/** How far out of square the spindle stands, mm over 300 mm, the worse way. */
function leanMm(c: PartsCondition): number {
  if (c.tramMm === undefined) return 0;
  const { x, y } = leanOf(c);
  return 300 * Math.max(Math.abs(x), Math.abs(y));
}

function position(config: AxisConfig, c: PartsCondition, axis: VirtualAxis): Partial<Record<FindingId, Sensation>> {
  const lost = Math.abs(trueReversal(axis, (c.spotAt ?? 0.5) * axis.travelMm));
  const slack = axis.links.reduce((sum, l) => sum + l.deadBandMm, 0) + (c.screwWearMm ?? 0);
  const leave = config.limits.leaveMm;
  const slip = (c.couplingSlipMm ?? 0) + 0.4 * (c.bracketSlipMm ?? 0);
  const friction = frictionOf(c) / (c.frictionN ?? SOUND_FRICTION_N);
  const open = config.feedback === "open-loop";
  const scale = config.feedback === "scale";
  return {
    "lost-motion": sense(lost / leave, 1.15, 0.25),
    "quadrant-step": sense(lost / leave, 1.1, 0.3),
    wanders: sense(
      30 * part(slip, 0.12) + (open ? 20 * part(c.stallMargin, 0.8) : 0) + 8 * part(c.scaleDirt, 1),
      14,
      6,
    ),
    "lost-steps": sense(
      open ? 40 * part(c.stallMargin, 0.7) + 10 * Math.max(0, friction - 2) + 10 * part(c.carriageBroken, 1) : 0,
      20,
      5,
    ),
    "travel-wrong": sense(c.travelWrong ?? 0, 0.5, 0.1),
    "racks-out": sense(c.rackStepMm ?? 0, 0.8, 0.2),
    "short-travel": sense(c.cageShiftMm ?? 0, 3, 0.6),
    hunting: sense(scale ? 26 * part(slack, 0.02) + 40 * part(c.scaleDirt, 0.7) : 0, 18, 4),
    spikes: sense(40 * (c.freshParts ?? 0), 20, 5),
    "home-varies": sense(c.homeScatterMm ?? 0, 0.012, 0.003),
    "home-turn": sense(c.markerNear ?? 0, 0.5, 0.1),
    recut: sense(leanMm(c), 0.025, 0.006),
    "tram-off": sense(leanMm(c), 0.02, 0.003),
    chatter: sense(
      30 * part(c.wayGapMm, 0.05) +
        16 * part(c.bearingPitting, 0.8) +
        12 * part(c.motorPitting, 0.8) +
        10 * part(c.bendN, 120) +
        20 * part(c.wheelGapMm, 0.2) +
        12 * part(c.meshWearMm, 0.2),
      16,
      5,
    ),
    "profile-middle": sense(c.screwWearMm ?? 0, 0.0035, 0.001),
    "scale-gap": sense(scale ? slack / leave : 0, 1, 0.06),
    "nut-gritty": sense(c.nutDirt ?? 0, 0.3, 0.08),
    "insert-broken": sense(c.springMm ?? 0, 0.02, 0.006),
    "belt-frayed": sense(c.springMm ?? 0, 0.03, 0.01),
    "wiper-torn": sense(0.6 * part(c.nutDirt, 1) + 0.6 * part(c.chipsN, 250), 0.7, 0.15),
    "flank-middle": sense(c.screwWearMm ?? 0, 0.0035, 0.001),
    "ripple-pair": sense(lost / leave, 1.4, 0.4),
  };
}

function found(c: PartsCondition): Partial<Record<FindingId, Sensation>> {
  const gap = (c.retainerGapMm ?? 0) + (c.lockNutGapMm ?? 0) + (c.bearingGapMm ?? 0);
  // A screw that has let go far enough for a gap turns long before its torque.
  const turns = (slip: number | undefined): Sensation => sense(slip ?? 0, 0.0025, 0.0012);
  return {
    "retainer-turns": turns(c.retainerGapMm),
    "housing-turns": turns(c.housingSlipMm),
    "bracket-turns": turns(c.bracketSlipMm),
    "coupling-turns": turns(c.couplingSlipMm),
    "pinion-turns": turns(c.couplingSlipMm),
    "flange-turns": turns(c.flangeSlipMm),
    "clamp-turns": turns(c.clampSlipMm),
    "marks-off": sense(c.couplingSlipMm ?? 0, 0.06, 0.025),
    dry: sense(c.dryness ?? 0, 0.35, 0.1),
    "rough-finger": sense(c.bearingPitting ?? 0, 0.25, 0.07),
    "coasts-free": sense(gap, 0.006, 0.0025),
    "coast-stuck": sense(c.bearingOverN ?? 0, 200, 40),
    "back-drives": sense(c.nutGapMm ?? 0, 0.007, 0.002),
    rocks: sense((c.wayGapMm ?? 0) + 0.3 * (c.wheelGapMm ?? 0) + 0.025 * (c.carriageBroken ?? 0), 0.02, 0.004),
    "wheel-stuck": sense(c.wheelTightN ?? 0, 60, 12),
    "wheel-free": sense(c.wheelGapMm ?? 0, 0.04, 0.01),
    "crest-slope": sense(c.misalignN ?? 0, 50, 10),
    "crest-turn": sense(c.bendN ?? 0, 30, 6),
    "far-play": sense(c.supportPitting ?? 0, 0.3, 0.07),
    springy: sense(c.springMm ?? 0, 0.004, 0.0012),
    "scale-dirty": sense(c.scaleDirt ?? 0, 0.3, 0.08),
    "override-zero": sense(c.overrideZero ?? 0, 0.5, 0.1),
    "listed-interlock": sense(c.interlockOpen ?? 0, 0.5, 0.15),
    "listed-waiting": sense(c.waiting ?? 0, 0.5, 0.15),
    "comp-differs": sense(Math.abs(c.compensationMm ?? 0), 0.003, 0.001),
    "display-dead": sense(c.displayDead ?? 0, 0.5, 0.1),
    "no-motion": sense((c.overrideZero ?? 0) + (c.interlockOpen ?? 0), 0.5, 0.1),
    "stops-in-program": sense(c.waiting ?? 0, 0.5, 0.1),
  };
}

/**
 * Is a finding so on this occasion? `normal` draws a standard normal number.
 * Follows from the parts and the virtual axis alone.
 * @param config - configuration
 * @param options - `axis`: the virtual one; `id`: the finding; `normal`: draws a standard normal number
 * @returns whether it is noticed
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * notices(axis, { axis: axisFromParts(axis, {}, 1), id: "lost-motion", normal: () => 0 }) // false
 */
export function notices(
  config: AxisConfig,
  { axis, id, normal }: { readonly axis: VirtualAxis; readonly id: FindingId; readonly normal: () => number },
): boolean {
  const sensation = sensations(config, axis)[id];
  if (!sensation) return false;
  const { level, threshold, scatter } = sensation;
  return level + scatter * normal() > threshold;
}

/**
 * All sensations of an axis, for looking many up at once.
 * @param config - configuration
 * @param axis - the virtual one
 * @returns how strong each is, against what is noticed
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * "lost-motion" in sensations(axis, axisFromParts(axis, {}, 1)) // true
 */
export function sensations(config: AxisConfig, axis: VirtualAxis): Partial<Record<FindingId, Sensation>> {
  const c = axis.parts ?? {};
  return { ...noises(c), ...binding(config, c), ...position(config, c, axis), ...found(c) };
}
