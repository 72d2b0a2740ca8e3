import type { Feedback } from "../machine/axis";
import { chainLostMotion, linkForce, moveChain, type ElasticLink } from "./elastic-chain";
import type { PartsCondition } from "./parts-condition";
import { normalNoise } from "./noise";
import { addedBy, type VirtualCorrection } from "./virtual-correction";

/** Extra dead band where a screw has worn: a bell over the travel. */
export interface LocalWear {
  readonly linkId: string;
  readonly centreMm: number;
  readonly widthMm: number;
  readonly extraMm: number;
}

/** Friction that is not the same everywhere, N on top of the guideway's own. */
export interface LoadShape {
  /** Amplitude once per turn of the screw. */
  readonly perTurnN: number;
  /** Rise towards the upper end of the travel, over its last third. */
  readonly endRiseN: number;
  readonly spots: readonly {
    readonly atMm: number;
    readonly widthMm: number;
    readonly extraN: number;
  }[];
}

/** The hidden truth of a simulated axis. */
export interface VirtualAxis {
  readonly links: readonly ElasticLink[];
  readonly travelMm: number;
  readonly feedback: Feedback;
  /** Standard deviation of where the member comes to rest, mm. */
  readonly repeatabilityMm: number;
  /** Warm-up: the member creeps by `totalMm` with time constant `tauS`. */
  readonly drift: { readonly totalMm: number; readonly tauS: number };
  /** Once-per-turn error of the screw or pinion. */
  readonly leadError: {
    readonly amplitudeMm: number;
    readonly perTurnMm: number;
  };
  /** Progressive lead error, mm over the whole travel. */
  readonly pitchErrorMm: number;
  readonly wear?: LocalWear;
  readonly load?: LoadShape;
  /** Error of the scale that closes the loop, mm over the whole travel. */
  readonly scaleErrorMm?: number;
  /** Error of screw or scale that comes and goes slowly along the travel: a wave of this size and length. */
  readonly slowError?: { readonly amplitudeMm: number; readonly waveMm: number };
  /** Table that stands in the control. */
  readonly correction?: VirtualCorrection;
  /** Backlash compensation entered in the control, mm: taken off the loss at each reversal. */
  readonly enteredMm?: number;
  /** The nut turns in bearings of its own on the member, and the screw stands still. */
  readonly turningNut?: boolean;
  /** The parts it was made from, for what no indicator reads. */
  readonly parts?: PartsCondition;
  readonly seed: number;
}

/** Everything that changes; plain data, so that it can be kept. */
export interface VirtualAxisState {
  readonly commandMm: number;
  /** The encoder end: equals the command unless a scale closes the loop at the table. */
  readonly motorMm: number;
  readonly places: readonly number[];
  readonly clockS: number;
  /** Counts stops, to draw fresh noise at each. */
  readonly stops: number;
  readonly restOffsetMm: number;
}

/**
 * The axis at rest, all slack taken up as it comes.
 * @param axis - the virtual axis
 * @param atMm - where, mm
 * @returns its state
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * restingState(virtual, 100).commandMm // 100
 */
export function restingState(axis: VirtualAxis, atMm = axis.travelMm / 2): VirtualAxisState {
  return {
    commandMm: atMm,
    motorMm: atMm,
    places: axis.links.map(() => atMm),
    clockS: 0,
    stops: 0,
    restOffsetMm: 0,
  };
}

/**
 * The links as they are with the member at `atMm`.
 * @param axis - the virtual axis
 * @param atMm - place of the member, mm
 * @returns the links
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * linksAt(virtual, 100).length // 6
 */
export function linksAt(axis: VirtualAxis, atMm: number): readonly ElasticLink[] {
  const { wear } = axis;
  const extraN = extraFriction(axis, atMm);
  if (!wear && extraN === 0) return axis.links;
  const bell = wear ? Math.exp(-(((atMm - wear.centreMm) / wear.widthMm) ** 2)) : 0;
  const last = axis.links.length - 1;
  return axis.links.map((link, i) => ({
    ...link,
    deadBandMm: link.id === wear?.linkId ? link.deadBandMm + wear.extraMm * bell : link.deadBandMm,
    frictionN: i === last ? link.frictionN + extraN : link.frictionN,
  }));
}

/**
 * Friction on top of the guideway's own with the member at `atMm`, N.
 * @param axis - the virtual axis
 * @param atMm - place of the member, mm
 * @returns N
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * extraFriction(virtual, 250) // 0
 */
export function extraFriction(axis: VirtualAxis, atMm: number): number {
  const { load } = axis;
  if (!load) return 0;
  const third = axis.travelMm / 3;
  const towardsEnd = Math.max(0, (atMm - 2 * third) / third);
  let extra = load.endRiseN * towardsEnd;
  if (load.perTurnN > 0) {
    const turns = atMm / axis.leadError.perTurnMm;
    extra += (load.perTurnN * (1 + Math.sin(2 * Math.PI * turns))) / 2;
  }
  for (const spot of load.spots) extra += spot.extraN * Math.exp(-(((atMm - spot.atMm) / spot.widthMm) ** 2));
  return extra;
}

/** Links whose stretch an indicator reads when it is set across them, not at the member. */
export const STATIONS = {
  member: [],
  "end-float": ["end-bearings", "housing"],
  "nut-flank": ["nut", "bracket"],
  "coupling-slip": ["coupling"],
  "housing-shift": ["housing"],
  "bracket-shift": ["bracket"],
} as const satisfies Record<string, readonly string[]>;
export type Station = keyof typeof STATIONS;

/** Where the nut turns, its bearings ride on the member and the screw stands in its clamps. */
const TURNING_STATIONS: Partial<Record<Station, readonly string[]>> = {
  "end-float": ["housing"],
  "nut-flank": ["nut", "bracket", "end-bearings"],
};

/**
 * What an indicator at a station follows, mm: the member's place, or how far the named links lag
 * behind what drives them.
 * @param axis - the virtual axis
 * @param state - as it is
 * @param station - where stand and tip are
 * @returns mm
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * stationPosition(virtual, restingState(virtual, 100), "member") === memberPosition(virtual, restingState(virtual, 100))
 * // true
 */
export function stationPosition(axis: VirtualAxis, state: VirtualAxisState, station: Station): number {
  if (station === "member") return memberPosition(axis, state);
  return readAcross(axis, state, (axis.turningNut ? TURNING_STATIONS[station] : undefined) ?? STATIONS[station]);
}

/**
 * What an indicator reads whose stand is in front of some links and whose tip is behind them, mm:
 * any two parts of the chain, one referenced to the other.
 * @param axis - the virtual axis
 * @param state - as it is
 * @param linkIds - the links between stand and tip
 * @returns mm
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * readAcross(virtual, restingState(virtual, 100), []) // 0
 */
export function readAcross(axis: VirtualAxis, state: VirtualAxisState, linkIds: readonly string[]): number {
  let lag = 0;
  axis.links.forEach((link, i) => {
    if (!linkIds.includes(link.id)) return;
    lag += (i === 0 ? state.motorMm : state.places[i - 1]) - state.places[i];
  });
  return 0.4 * state.restOffsetMm - lag;
}

const LONGEST_STEP_MM = 2;

function driveMotor(axis: VirtualAxis, state: VirtualAxisState, motorMm: number): VirtualAxisState {
  const distance = motorMm - state.motorMm;
  const steps = axis.wear || axis.load ? Math.max(1, Math.ceil(Math.abs(distance) / LONGEST_STEP_MM)) : 1;
  let places = state.places;
  for (let i = 1; i <= steps; i += 1) {
    const at = state.motorMm + (distance * i) / steps;
    places = moveChain(linksAt(axis, places[places.length - 1]), places, at);
  }
  return { ...state, motorMm, places };
}

/**
 * Moves the command; with a scale the motor goes on until the table itself has arrived.
 * @param axis - the virtual axis
 * @param state - as it is
 * @param commandMm - new place of the command, mm
 * @returns the state afterwards
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * commandAxis(virtual, restingState(virtual, 100), 101).commandMm // 101
 */
export function commandAxis(axis: VirtualAxis, state: VirtualAxisState, commandMm: number): VirtualAxisState {
  // The control adds the entered compensation whenever the command turns round.
  const moved = commandMm - state.commandMm;
  const table = addedBy(axis.correction, commandMm, Math.sign(moved));
  const entered =
    moved === 0 ? state.motorMm - state.commandMm : table + ((axis.enteredMm ?? 0) / 2) * Math.sign(moved);
  const onScale = axis.feedback === "scale";
  if (onScale && moved === 0) return { ...state, commandMm };
  let next = driveMotor(
    axis,
    { ...state, commandMm },
    onScale ? state.motorMm + commandMm - state.commandMm : commandMm + entered,
  );
  if (!onScale) return next;
  for (let i = 0; i < 60; i += 1) {
    const missing = commandMm + table - next.places[next.places.length - 1];
    if (Math.abs(missing) < 1e-7) break;
    next = driveMotor(axis, next, next.motorMm + missing);
  }
  return next;
}

/**
 * Lets time pass.
 * @param state - as it is
 * @param seconds - how long
 * @returns the state afterwards
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * passTime(restingState(virtual), 60).clockS // 60
 */
export function passTime(state: VirtualAxisState, seconds: number): VirtualAxisState {
  return { ...state, clockS: state.clockS + seconds };
}

/**
 * The member has come to rest: where exactly scatters a little, if it moved at all.
 * @param axis - the virtual axis
 * @param state - as it is
 * @param movedMm - how far it went, mm
 * @returns the state at rest
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * comeToRest(virtual, restingState(virtual), 0).stops // 0
 */
export function comeToRest(axis: VirtualAxis, state: VirtualAxisState, movedMm: number): VirtualAxisState {
  if (Math.abs(movedMm) < 1e-6) return state;
  const hunting = axis.feedback === "scale" ? 0.1 * chainLostMotion(axis.links) : 0;
  const sigma = Math.hypot(axis.repeatabilityMm, hunting);
  return {
    ...state,
    stops: state.stops + 1,
    restOffsetMm: sigma * normalNoise(axis.seed, state.stops),
  };
}

/**
 * Where the member really is, mm.
 * @param axis - the virtual axis
 * @param state - as it is
 * @returns mm
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * Math.abs(memberPosition(virtual, restingState(virtual, 100)) - 100) < 0.1 // true
 */
export function memberPosition(axis: VirtualAxis, state: VirtualAxisState): number {
  const nominal = state.places[state.places.length - 1];
  const turns = state.motorMm / axis.leadError.perTurnMm;
  const screwError =
    axis.feedback === "scale"
      ? ((axis.scaleErrorMm ?? 0) * nominal) / axis.travelMm
      : axis.leadError.amplitudeMm * Math.sin(2 * Math.PI * turns) + (axis.pitchErrorMm * nominal) / axis.travelMm;
  const { slowError } = axis;
  const slow = slowError ? slowError.amplitudeMm * Math.sin((2 * Math.PI * nominal) / slowError.waveMm) : 0;
  const drift = axis.drift.totalMm * (1 - Math.exp(-state.clockS / axis.drift.tauS));
  return nominal + screwError + slow + drift + state.restOffsetMm;
}

/**
 * Force the drive delivers now, N: what its load meter would follow.
 * @param axis - the virtual axis
 * @param state - as it is
 * @returns N
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * Math.abs(driveForce(virtual, restingState(virtual))) < 1000 // true
 */
export function driveForce(axis: VirtualAxis, state: VirtualAxisState): number {
  return linkForce(axis.links[0], state.motorMm - state.places[0]);
}

/**
 * The lost motion at the member that a perfect test at `atMm` would find, mm. A scale takes it all
 * up before the member is read.
 * @param axis - the virtual axis
 * @param atMm - place, mm
 * @returns mm
 * @example
 * trueReversal(axisFromParts(defaultAxis("vertical-centre", "X"), { nutGapMm: 0.02 }, 1), 250) > 0.02 // true
 */
export function trueReversal(axis: VirtualAxis, atMm: number): number {
  return axis.feedback === "scale" ? 0 : chainLostMotion(linksAt(axis, atMm)) - (axis.enteredMm ?? 0);
}
