import { followTrack, startTrack, type ApproachTrack } from "../measure/reversal";
import { requireBound } from "../quantity";
import { displayedReading, rawReading, type Indicator, type Mounting } from "./indicator";
import {
  commandAxis,
  comeToRest,
  driveForce,
  stationPosition,
  passTime,
  restingState,
  type Station,
  type VirtualAxis,
  type VirtualAxisState,
} from "./virtual-axis";

/** What a device can be told to do, one after the other. */
export type DeviceMove =
  | { readonly kind: "move"; readonly toMm: number; readonly feedMmMin: number }
  | {
      readonly kind: "dwell";
      readonly seconds: number;
      readonly step: number | null;
    };

/** The whole state of a simulated machine axis with its indicator; plain data. */
export interface DeviceState {
  readonly axis: VirtualAxisState;
  readonly queue: readonly DeviceMove[];
  readonly track: ApproachTrack;
  readonly indicator: Indicator;
  readonly mounting: Mounting;
  /** Where the indicator sits; absent: at the member. */
  readonly station?: Station;
  /** What the indicator follows for each millimetre of table motion there; absent: 1. */
  readonly perTableMm?: number;
  /** Member place when the present movement began. */
  readonly movedFromMm: number;
  readonly samples: number;
}

/**
 * A simulated axis with an indicator on it, at rest in the middle of its travel.
 * @param model - the virtual axis
 * @param indicator - what is on the stand
 * @returns its state
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * startDevice(virtual, indicator).queue // []
 */
export function startDevice(model: VirtualAxis, indicator: Indicator): DeviceState {
  const axis = restingState(model);
  return {
    axis,
    queue: [],
    track: startTrack(axis.commandMm),
    indicator,
    mounting: { contactMm: axis.commandMm, zeroMm: 0 },
    movedFromMm: axis.commandMm,
    samples: 0,
  };
}

/**
 * Adds moves after checking them against the travel.
 * @param model - the virtual axis
 * @param state - as it is
 * @param moves - places in mm, dwells in s
 * @returns the state with the moves waiting
 * @throws BoundError when a place leaves the travel
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * enqueue(virtual, startDevice(virtual, indicator), [{ kind: "move", toMm: 10, feedMmMin: 1000 }]).queue.length
 * // 1
 */
export function enqueue(model: VirtualAxis, state: DeviceState, moves: readonly DeviceMove[]): DeviceState {
  for (const move of moves) {
    if (move.kind !== "move") continue;
    const inside = move.toMm >= -1e-9 && move.toMm <= model.travelMm + 1e-9;
    requireBound(
      { position: Number(move.toMm.toFixed(5)) },
      inside,
      `from 0 to ${model.travelMm} mm: the axis has no more travel`,
    );
    requireBound({ feed: move.feedMmMin }, move.feedMmMin > 0, "above 0 mm/min");
  }
  return { ...state, queue: [...state.queue, ...moves] };
}

/**
 * Stops where the axis is and forgets what was to come.
 * @param model - the virtual axis
 * @param state - as it is
 * @returns the state at rest
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * stopDevice(virtual, startDevice(virtual, indicator)).queue // []
 */
export function stopDevice(model: VirtualAxis, state: DeviceState): DeviceState {
  if (state.queue.length === 0) return state;
  return rest(model, { ...state, queue: [] });
}

function rest(model: VirtualAxis, state: DeviceState): DeviceState {
  const place = state.axis.places[state.axis.places.length - 1];
  const axis = comeToRest(model, state.axis, place - state.movedFromMm);
  return { ...state, axis, movedFromMm: place };
}

export interface DeviceAdvance {
  readonly state: DeviceState;
  readonly leftS: number;
  /** Step whose dwell has just ended, if one has: the moment to read. */
  readonly dwelt: number | null;
}

/**
 * Lets up to `seconds` pass, but stops at the end of each move or dwell; `leftS` is what remains.
 * @param model - the virtual axis
 * @param state - as it is
 * @param seconds - how long
 * @returns the state, seconds that remain, and which dwell ended
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * advanceDevice(virtual, startDevice(virtual, indicator), 1).leftS // 0
 */
export function advanceDevice(model: VirtualAxis, state: DeviceState, seconds: number): DeviceAdvance {
  const [move, ...later] = state.queue;
  if (!move)
    return {
      state: { ...state, axis: passTime(state.axis, seconds) },
      leftS: 0,
      dwelt: null,
    };
  if (move.kind === "dwell") {
    const used = Math.min(seconds, move.seconds);
    const axis = passTime(state.axis, used);
    const done = used >= move.seconds;
    const queue = done ? later : [{ ...move, seconds: move.seconds - used }, ...later];
    return {
      state: { ...state, axis, queue },
      leftS: seconds - used,
      dwelt: done ? move.step : null,
    };
  }
  const distance = move.toMm - state.axis.commandMm;
  const needsS = (Math.abs(distance) / move.feedMmMin) * 60;
  const used = Math.min(seconds, needsS);
  const done = used >= needsS;
  const command = done ? move.toMm : state.axis.commandMm + Math.sign(distance) * (used / 60) * move.feedMmMin;
  const axis = passTime(commandAxis(model, state.axis, command), used);
  const moved = {
    ...state,
    axis,
    track: followTrack(state.track, command),
    queue: done ? later : state.queue,
  };
  return {
    state: done ? rest(model, moved) : moved,
    leftS: seconds - used,
    dwelt: null,
  };
}

/**
 * Puts the stand where the member now is, the tip in the middle of its reach and at zero.
 * @param model - the virtual axis
 * @param options - `state`: as it is; `indicator`: what is on the stand; `at`: where the stand and tip are
 * @returns the state with the indicator at zero
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * mountIndicator(virtual, { state: startDevice(virtual, indicator), indicator: indicator }).samples // 0
 */
export function mountIndicator(
  model: VirtualAxis,
  {
    state,
    indicator,
    at = {
      station: state.station ?? "member",
      perTableMm: state.perTableMm ?? 1,
    },
  }: {
    readonly state: DeviceState;
    readonly indicator: Indicator;
    readonly at?: { readonly station: Station; readonly perTableMm?: number };
  },
): DeviceState {
  const { station, perTableMm = 1 } = at;
  const mounted = { ...state, indicator, station, perTableMm };
  const contactMm = followed(model, mounted);
  return { ...mounted, mounting: { contactMm, zeroMm: 0 } };
}

/** What the tip follows, mm. */
function followed(model: VirtualAxis, state: DeviceState): number {
  const station = state.station ?? "member";
  return (state.perTableMm ?? 1) * stationPosition(model, state.axis, station);
}

/**
 * Sets the face to zero, putting the stand up anew if the tip does not touch.
 * @param model - the virtual axis
 * @param state - as it is
 * @returns the state with the face at zero
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * Math.abs(viewDevice(virtual, zeroIndicator(virtual, startDevice(virtual, indicator))).displayMm) < 0.002
 * // true
 */
export function zeroIndicator(model: VirtualAxis, state: DeviceState): DeviceState {
  const raw = rawReading(state.indicator, state.mounting, followed(model, state));
  if (raw === null) return mountIndicator(model, { state, indicator: state.indicator });
  return { ...state, mounting: { ...state.mounting, zeroMm: raw } };
}

/** What is seen of a device at one moment. A real device would say the same. */
export interface DeviceView {
  readonly commandMm: number;
  /** What the indicator shows, mm; null when the tip does not touch. */
  readonly displayMm: number | null;
  readonly moving: boolean;
  readonly dwelling: boolean;
  readonly forceN: number;
  readonly track: ApproachTrack;
  readonly clockS: number;
}

/**
 * What one sees of the device: where the control says it is, the face, whether it moves.
 * @param model - the virtual axis
 * @param state - as it is
 * @returns mm, N and s
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * viewDevice(virtual, startDevice(virtual, indicator)).moving // false
 */
export function viewDevice(model: VirtualAxis, state: DeviceState): DeviceView {
  return {
    commandMm: state.axis.commandMm,
    displayMm: displayedReading(state.indicator, {
      mounting: state.mounting,
      memberMm: followed(model, state),
      seed: model.seed,
      sample: state.samples,
    }),
    moving: state.queue[0]?.kind === "move",
    dwelling: state.queue[0]?.kind === "dwell",
    forceN: driveForce(model, state.axis),
    track: state.track,
    clockS: state.axis.clockS,
  };
}

/**
 * The next sample: the needle trembles a little.
 * @param state - as it is
 * @returns the state, one sample on
 * @example
 * const indicator = { kind: "digital", resolutionMm: 0.001, tipAngleDeg: 0, rangeMm: 10 };
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * nextSample(startDevice(virtual, indicator)).samples // 1
 */
export function nextSample(state: DeviceState): DeviceState {
  return { ...state, samples: state.samples + 1 };
}
