import { soundVirtualMachine, type VirtualMachine } from "@iron/core";

type Servo = VirtualMachine["servos"][string];

/** Where a demo machine is not as it should be, by the letters of its axes and planes. */
const TALES: Readonly<
  Record<
    string,
    {
      readonly servos?: Readonly<Record<string, Partial<Servo>>>;
      readonly square?: Readonly<Record<string, number>>;
      readonly losesBatches?: number;
    }
  >
> = {
  // Y and Z tremble, X is clean.
  Bittern: {
    servos: {
      Y: { shake: { mm: 0.0048, waveMm: 10 / 5.4 } },
      Z: { shake: { mm: 0.0055, waveMm: 10 / 8.7 } },
    },
  },
  // Bearings of Y and Z were renewed: they hang before they turn round.
  Godwit: {
    servos: {
      Y: { stick: { mm: 0.011, tauS: 0.08 } },
      Z: { stick: { mm: 0.013, tauS: 0.09 } },
    },
  },
  // Moved across the hall and set down on three feet.
  Avocet: { square: { XY: 160e-6, ZX: 20e-6, YZ: -70e-6 } },
  // The radio of its bar loses a batch now and then.
  Heron: { losesBatches: 0.02 },
  // One servo was tuned, the other was not.
  Curlew: { servos: { X: { gain: 41 }, Z: { gain: 30 } } },
};

/** The hidden truth of a demo machine beyond its axes. */
export function demoMachine(nickname: string, letters: readonly string[], seed: number): VirtualMachine {
  const sound = soundVirtualMachine(letters, seed);
  const tale = TALES[nickname];
  if (!tale) return sound;
  const servos = Object.fromEntries(letters.map((l) => [l, { ...sound.servos[l], ...tale.servos?.[l] }]));
  return {
    ...sound,
    servos,
    square: { ...sound.square, ...tale.square },
    losesBatches: tale.losesBatches ?? 0,
  };
}
