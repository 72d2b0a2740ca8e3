import { travelPerTurnMm, type AxisConfig } from "../../machine/axis";
import type { PartsCondition } from "../parts-condition";
import { addRing, soundLuck, type Ring, type SoundLuck } from "./sound-ring";
import type { SoundMotion } from "./sound-run";

/** One axis being listened to: its motion, its parts, and what it sounds into. */
export interface SoundScene {
  readonly config: AxisConfig;
  readonly parts: PartsCondition;
  readonly motion: SoundMotion;
  readonly out: Float32Array;
  /** Turns of screw or pinion, sample by sample. */
  readonly turns: Float64Array;
  /** How loud rolling is at each sample, 1 at a hundred millimetres a second. */
  readonly drive: Float32Array;
  /** The same machine: how it is built. */
  readonly machine: number;
  /** The same occasion: its noise. */
  readonly seed: number;
}

/**
 * Opens a scene; nothing sounds yet.
 * @param given - the axis, its parts, its motion; `machine`, `seed`: the same give the same
 * @returns the scene
 * @example
 * const run = { stillS: 0, feedMmMin: 6000, fromMm: 0, strokeMm: 100, passes: 1, dwellS: 0, accelMmS2: 2000 };
 * soundScene({ config: defaultAxis("vertical-centre", "X"), parts: {}, motion: soundMotion(run, 1000), machine: 1, seed: 1 }).out.length // 1050
 */
export function soundScene(given: Omit<SoundScene, "out" | "turns" | "drive">): SoundScene {
  const { placeMm, speedMmS } = given.motion;
  const perTurn = travelPerTurnMm(given.config);
  const turns = new Float64Array(placeMm.length);
  const drive = new Float32Array(placeMm.length);
  for (let i = 0; i < turns.length; i += 1) {
    turns[i] = placeMm[i] / perTurn;
    // Most samples are at the speed of the one before.
    const same = i > 0 && speedMmS[i] === speedMmS[i - 1];
    drive[i] = same ? drive[i - 1] : Math.abs(speedMmS[i] / 100) ** 0.8;
  }
  return { ...given, out: new Float32Array(placeMm.length), turns, drive };
}

/**
 * Numbers of one source in a scene; `of` tells sources apart.
 * @param scene - the scene
 * @param of - number of the source
 * @returns its numbers
 * @example sourceLuck({ machine: 1, seed: 1 }, 2).uniform() === sourceLuck({ machine: 1, seed: 1 }, 3).uniform() // false
 */
export function sourceLuck(scene: Pick<SoundScene, "machine" | "seed">, of: number): SoundLuck {
  return soundLuck(scene.seed * 64 + of, scene.machine * 64 + of);
}

/**
 * How worn or loaded a place is: a bell about the middle of the travel, or about a spot.
 * @param mm - place
 * @param about - centre and half width, mm
 * @returns 0 to 1
 * @example bell(100, { atMm: 100, widthMm: 20 }) // 1
 */
export function bell(mm: number, { atMm, widthMm }: { readonly atMm: number; readonly widthMm: number }): number {
  return Math.exp(-(((mm - atMm) / widthMm) ** 2));
}

/**
 * Adds noise that is louder here and quieter there, heard through rings.
 * @param scene - added to
 * @param options - `rings`: what it is heard through; `luck`: its numbers; `loud`: how loud at a sample
 * @example
 * const run = { stillS: 0, feedMmMin: 6000, fromMm: 0, strokeMm: 100, passes: 1, dwellS: 0, accelMmS2: 2000 };
 * const scene = soundScene({ config: defaultAxis("vertical-centre", "X"), parts: {}, motion: soundMotion(run, 8000), machine: 1, seed: 1 });
 * addNoise(scene, { rings: [{ hz: 900, tauS: 0.001, gain: 1 }], luck: sourceLuck(scene, 1), loud: () => 1 });
 * rootMeanSquare(scene.out, 0) > 0 // true
 */
export function addNoise(
  scene: SoundScene,
  {
    rings,
    luck,
    loud,
  }: { readonly rings: readonly Ring[]; readonly luck: SoundLuck; readonly loud: (i: number) => number },
): void {
  const blows = new Float32Array(scene.out.length);
  for (let i = 0; i < blows.length; i += 1) {
    const much = loud(i);
    if (much !== 0) blows[i] = much * luck.white();
  }
  for (const ring of rings) {
    // Through a ring, noise of unit variance comes out as strong as the ring is long.
    const gain = (ring.gain * 2) / Math.sqrt(ring.tauS * scene.motion.rate);
    addRing(scene.out, blows, { ring: { ...ring, gain }, rate: scene.motion.rate });
  }
}

/**
 * Adds blows that come so many times a turn, a little unevenly, heard through rings.
 * @param scene - added to
 * @param options - `order`: how often a turn; `uneven`: scatter of the distance between two, as a share of it; `rings`,
 *   `luck`; `height`: of a blow at a sample
 * @example
 * const run = { stillS: 0, feedMmMin: 6000, fromMm: 0, strokeMm: 100, passes: 1, dwellS: 0, accelMmS2: 2000 };
 * const scene = soundScene({ config: defaultAxis("vertical-centre", "X"), parts: {}, motion: soundMotion(run, 8000), machine: 1, seed: 1 });
 * addBlows(scene, { order: 5, uneven: 0, rings: [{ hz: 900, tauS: 0.001, gain: 1 }], luck: sourceLuck(scene, 1), height: () => 1 });
 * rootMeanSquare(scene.out, 0) > 0 // true
 */
export function addBlows(
  scene: SoundScene,
  {
    order,
    uneven,
    rings,
    luck,
    height,
  }: {
    readonly order: number;
    readonly uneven: number;
    readonly rings: readonly Ring[];
    readonly luck: SoundLuck;
    readonly height: (i: number) => number;
  },
): void {
  const blows = new Float32Array(scene.out.length);
  let gone = luck.uniform();
  let next = 1;
  for (let i = 1; i < blows.length; i += 1) {
    gone += Math.abs(scene.turns[i] - scene.turns[i - 1]) * order;
    if (gone < next) continue;
    blows[i] += height(i);
    next += Math.max(0.05, 1 + uneven * luck.white());
  }
  for (const ring of rings) addRing(scene.out, blows, { ring, rate: scene.motion.rate });
}
