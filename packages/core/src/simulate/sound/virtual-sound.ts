import type { AxisConfig } from "../../machine/axis";
import type { PartsCondition } from "../parts-condition";
import { soundGeometry, type SoundGeometry } from "./sound-geometry";
import { addRing, rootMeanSquare, soundLuck, type SoundLuck } from "./sound-ring";
import { soundMotion, type SoundMotion, type VirtualSoundRun } from "./sound-run";
import { soundScene, sourceLuck, type SoundScene } from "./sound-scene";
import { addDrive, addRolling } from "./sound-sources";
import { addMember } from "./sound-ways";

/** Samples a second. */
export const VIRTUAL_SOUND_RATE = 48_000;

/** Of full scale, what a sound axis makes at a hundred millimetres a second. */
const FULL_SCALE = 0.012;

export interface VirtualSoundAsked {
  readonly parts: PartsCondition;
  readonly run: VirtualSoundRun;
  /** Noise of the room against the sound axis at this feed, dB; −20 is a quiet room. */
  readonly roomDb: number;
  /** The same machine: what is inside its parts. */
  readonly machine: number;
  /** The same occasion: its noise, and where exactly the telephone lies. */
  readonly seed: number;
  /** The same telephone: how deaf it is. */
  readonly telephone?: number;
}

export interface VirtualSound {
  /** From −1 to 1, as a microphone of 16 bits gives it. */
  readonly samples: Float32Array;
  readonly motion: SoundMotion;
}

/** A shop at work: it hums, a fan turns, air hisses, somebody drops something. */
function room(count: number, luck: SoundLuck): Float32Array {
  const out = new Float32Array(count);
  const hum = 0.25 + 0.3 * luck.uniform();
  const fan = 140 + 160 * luck.uniform();
  let [low, mid] = [0, 0];
  for (let i = 0; i < count; i += 1) {
    const white = luck.white();
    low += 0.02 * (white - low);
    mid += 0.15 * (white - mid);
    const t = i / VIRTUAL_SOUND_RATE;
    out[i] =
      6 * low +
      1.6 * mid +
      0.12 * white +
      hum * Math.sin(2 * Math.PI * 100 * t) +
      0.2 * Math.sin(2 * Math.PI * fan * t);
  }
  const blows = new Float32Array(count);
  for (let t = luck.uniform() * 9; t < count / VIRTUAL_SOUND_RATE; t += 4 + 16 * luck.uniform())
    blows[Math.floor(t * VIRTUAL_SOUND_RATE)] = 4 * luck.uniform();
  addRing(out, blows, { ring: { hz: 1800 + 900 * luck.uniform(), tauS: 0.02, gain: 1 }, rate: VIRTUAL_SOUND_RATE });
  return out;
}

/** A small microphone: hears little that is low, hisses, has so many steps and no more room than −1 to 1. */
function heard(pressure: Float32Array, { scale, luck }: { readonly scale: number; readonly luck: SoundLuck }): void {
  const pole = Math.exp((-2 * Math.PI * 130) / VIRTUAL_SOUND_RATE);
  let [in1, out1, in2, out2] = [0, 0, 0, 0];
  for (let i = 0; i < pressure.length; i += 1) {
    out1 = pole * (out1 + pressure[i] - in1);
    in1 = pressure[i];
    out2 = pole * (out2 + out1 - in2);
    in2 = out1;
    const value = Math.min(1, Math.max(-1, scale * out2 + 2e-4 * luck.white()));
    pressure[i] = Math.round(32_767 * value) / 32_767;
  }
}

/**
 * What a microphone hears of an axis that is run to and fro, made from the condition of its parts: blows of pitted rings,
 * grit, a worn thread’s howl, knocks where it turns round, over rolling, motor and room. It knows no cause and nothing of
 * what is made of a recording later. Plausible and invented.
 * @param config - configuration
 * @param asked - parts, motion, room, machine and occasion
 * @returns the recording, 48 kHz, and the motion under it
 * @example
 * const run = { stillS: 1, feedMmMin: 6000, fromMm: 50, strokeMm: 100, passes: 2, dwellS: 0.5, accelMmS2: 2000 };
 * virtualSound(defaultAxis("vertical-centre", "X"), { parts: {}, run, roomDb: -20, machine: 1, seed: 1 }).samples.length // 196800
 */
export function virtualSound(config: AxisConfig, asked: VirtualSoundAsked): VirtualSound {
  const motion = soundMotion(asked.run, VIRTUAL_SOUND_RATE);
  const scene = soundScene({ config, parts: asked.parts, motion, machine: asked.machine, seed: asked.seed });
  const inside = soundGeometry(config, soundLuck(asked.seed, asked.machine));
  addRolling(scene, inside);
  const rolling = rootMeanSquare(scene.out, motion.starts[0] ?? 0);
  if (asked.run.motorAlone) keepMotor(scene, inside);
  else {
    addDrive(scene, inside);
    addMember(scene, inside);
  }
  const luck = sourceLuck(scene, 20);
  if (asked.parts.spindleSensor) addGrinding(scene.out, sourceLuck(scene, 21), 3 * rolling * asked.parts.spindleSensor);
  const around = room(scene.out.length, luck);
  const share = (rolling * 10 ** (asked.roomDb / 20)) / (rootMeanSquare(around, 0) || 1);
  for (let i = 0; i < around.length; i += 1) scene.out[i] += share * around[i];
  // How deaf the telephone is, six decibels either way; and one more for how it lies today.
  const deaf = 12 * soundLuck(0, asked.telephone ?? asked.seed).built() - 6 + luck.white();
  const scale = FULL_SCALE * 10 ** (deaf / 20);
  heard(scene.out, { scale, luck });
  return { samples: scene.out, motion };
}

/** Of an axis whose motor runs alone: its own rolling is a quarter of the whole, and its bearings are as they are. */
function keepMotor(scene: SoundScene, inside: SoundGeometry): void {
  for (let i = 0; i < scene.out.length; i += 1) scene.out[i] *= 0.25;
  const { motorPitting = 0 } = scene.parts;
  addDrive({ ...scene, parts: { motorPitting } }, inside);
}

/** Coarse grinding that goes on whether or not an axis moves. */
function addGrinding(out: Float32Array, luck: SoundLuck, level: number): void {
  const blows = new Float32Array(out.length);
  let swell = 0;
  for (let i = 0; i < blows.length; i += 1) {
    if (luck.uniform() < 0.001) swell = luck.uniform();
    blows[i] = (0.3 + swell) * luck.white();
  }
  for (const hz of [340, 900])
    addRing(out, blows, { ring: { hz, tauS: 0.0015, gain: 0.25 * level }, rate: VIRTUAL_SOUND_RATE });
}
