import {
  soundChances,
  soundFacts,
  soundNumbers,
  soundTroubles,
  virtualSound,
  VIRTUAL_SOUND_RATE,
  type AxisConfig,
  type LineFamily,
  type OrderSpectrum,
  type SoundPlan,
  type VirtualSoundAsked,
} from "@iron/core";
import { readWav, writeWav, type SoundResult } from "@iron/contract";

export interface SoundWorked {
  readonly seconds: number | null;
  readonly result: SoundResult | null;
  /** Why there is none. */
  readonly why: string;
  /** The file itself cannot be used. */
  readonly refused: boolean;
}

const OF_A_MOTOR: readonly LineFamily[] = ["turn", "deep-groove"];

/** Points of an order spectrum that are drawn at most. */
const DRAWN = 600;

/** The highest of each stretch, so that no line is lost: order, and dB over what lies around. */
function thinned(orders: OrderSpectrum | null): readonly (readonly [number, number])[] {
  if (!orders) return [];
  const { over, step } = orders;
  const every = Math.max(1, Math.ceil(over.length / DRAWN));
  const points: (readonly [number, number])[] = [];
  for (let from = 1; from < over.length; from += every) {
    let at = from;
    for (let i = from; i < Math.min(over.length, from + every); i += 1) if (over[i] > over[at]) at = i;
    points.push([Number((at * step).toFixed(3)), Number((10 * Math.log10(over[at] + 1e-9)).toFixed(1))]);
  }
  return points;
}

/** Reads a recording and works it out. */
export function workSound({
  bytes,
  config,
  plan,
}: {
  readonly bytes: Uint8Array;
  readonly config: AxisConfig;
  readonly plan: SoundPlan;
}): SoundWorked {
  const wav = readWav(bytes);
  if (wav.kind === "refused") return { seconds: null, result: null, why: wav.why, refused: true };
  const seconds = wav.samples.length / wav.rate;
  const facts = soundFacts(config, wav, plan);
  if (!facts)
    return {
      ...{ seconds, result: null, refused: false },
      why: "The motion was not found in it: the ways are too short for this feed, or the recording ends before they do.",
    };
  const { orders, ways, ...kept } = facts;
  // Kinds are learned from whole axes; of a motor alone its own lines and how loud it is are told.
  const chances = plan.motorAlone ? {} : soundChances(config, soundNumbers(facts));
  const lines = kept.lines.filter((l) => !plan.motorAlone || OF_A_MOTOR.includes(l.family));
  const worked = { ...kept, lines, ways: ways.length, orders: thinned(orders) };
  const result = { ...worked, troubles: soundTroubles(facts), chances };
  return { seconds, result, why: "", refused: false };
}

/** What the stand-in of a microphone records of a virtual axis, as a file. */
export function recordVirtual({
  config,
  asked,
}: {
  readonly config: AxisConfig;
  readonly asked: VirtualSoundAsked;
}): Uint8Array {
  return writeWav(virtualSound(config, asked).samples, VIRTUAL_SOUND_RATE);
}
