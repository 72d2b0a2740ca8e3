import { normalNoise } from "./noise";
import type { VirtualAxis } from "./virtual-axis";
import type { VirtualBar } from "./virtual-circle";
import type { VirtualPlane } from "./virtual-plane";

type Stick = VirtualPlane["stick"][number];
type Shake = NonNullable<NonNullable<VirtualPlane["shake"]>[number]>;

/** What an axis of a virtual machine does beyond its own chain. */
export interface VirtualServo {
  /** Velocity gain, 1/s. */
  readonly gain: number;
  /** Scale error, mm for a mm. */
  readonly scale: number;
  /** Sideways at the ends of a circle, mm. */
  readonly bowMm: number;
  /** Sideways with the direction, mm between the two. */
  readonly asideMm: number;
  readonly stick: Stick;
  readonly shake: Shake | null;
}

/** The hidden truth of a machine as a circle shows it, by the letters of its axes. */
export interface VirtualMachine {
  readonly servos: Readonly<Record<string, VirtualServo>>;
  /** How far the second axis of a plane leans towards the first, rad, by both letters. */
  readonly square: Readonly<Record<string, number>>;
  readonly bar: VirtualBar;
  /** Part of its batches that the bar’s radio loses. */
  readonly losesBatches: number;
}

/** The bar that ships with it: seats set by hand, a length from its master. */
const BAR: VirtualBar = { noiseMm: 0.0002, resolutionMm: 0.0001, offMm: [0.012, -0.018], longerMm: 0.0004 };

const SOUND: VirtualServo = {
  gain: 33,
  scale: 0,
  bowMm: 0.0005,
  asideMm: 0.0004,
  stick: { mm: 0.0015, tauS: 0.1 },
  shake: null,
};

/**
 * A machine in ordinary order: a little of everything, nothing that anybody would mend.
 * @param letters - its axes
 * @param seed - which one
 * @returns the machine
 * @example Math.abs(soundVirtualMachine(["X", "Y"], 1).servos.X.scale) < 2e-5 // true
 */
export function soundVirtualMachine(letters: readonly string[], seed: number): VirtualMachine {
  let count = 0;
  const little = (size: number): number => size * Math.max(-2, Math.min(2, normalNoise(seed, (count += 1))));
  const servos = Object.fromEntries(
    letters.map((letter) => [
      letter,
      { ...SOUND, gain: 33 + little(0.06), scale: little(4e-6), bowMm: little(0.0006) },
    ]),
  );
  const square = Object.fromEntries(letters.flatMap((a) => letters.map((b) => [`${a}${b}`, little(8e-6)])));
  return { servos, square, bar: BAR, losesBatches: 0 };
}

/**
 * Two axes of a virtual machine as a plane.
 * @param machine - the machine
 * @param axes - both, with their letters
 * @returns the plane
 * @example
 * const x = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * planeOfMachine(soundVirtualMachine(["X", "Y"], 1), [{ letter: "X", axis: x }, { letter: "Y", axis: x }]).gains.length // 2
 */
export function planeOfMachine(
  machine: VirtualMachine,
  axes: readonly [
    { readonly letter: string; readonly axis: VirtualAxis },
    { readonly letter: string; readonly axis: VirtualAxis },
  ],
): VirtualPlane {
  const of = <T>(take: (servo: VirtualServo) => T): readonly [T, T] => [
    take(machine.servos[axes[0].letter] ?? SOUND),
    take(machine.servos[axes[1].letter] ?? SOUND),
  ];
  return {
    axes: [axes[0].axis, axes[1].axis],
    gains: of((s) => s.gain),
    scale: of((s) => s.scale),
    square: machine.square[`${axes[0].letter}${axes[1].letter}`] ?? 0,
    bowMm: of((s) => s.bowMm),
    asideMm: of((s) => s.asideMm),
    stick: of((s) => s.stick),
    shake: of((s) => s.shake),
  };
}
