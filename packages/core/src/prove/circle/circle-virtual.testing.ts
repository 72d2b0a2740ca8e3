import { defaultAxis } from "../../machine/axis";
import {
  defaultVirtualAxis,
  virtualCircle,
  type VirtualAxis,
  type VirtualBar,
  type VirtualPlane,
} from "../../simulate";
import type { CircleSetup, CircleTrace } from "./circle-trace";

/** A sound axis whose screw has no error of its own. */
export const evenAxis = (letter: string, over: Partial<VirtualAxis> = {}): VirtualAxis => ({
  ...defaultVirtualAxis(defaultAxis("vertical-centre", letter), 1),
  pitchErrorMm: 0,
  repeatabilityMm: 0,
  leadError: { amplitudeMm: 0, perTurnMm: 10 },
  ...over,
});

/** Two axes alike, square and straight, with servos so stiff that they do not lag. */
export const evenPlane = (over: Partial<VirtualPlane> = {}): VirtualPlane => ({
  axes: [evenAxis("X"), evenAxis("Y")],
  gains: [1000, 1000],
  scale: [0, 0],
  square: 0,
  bowMm: [0, 0],
  asideMm: [0, 0],
  stick: [
    { mm: 0, tauS: 0.1 },
    { mm: 0, tauS: 0.1 },
  ],
  ...over,
});

export const QUIET: VirtualBar = { noiseMm: 0.0002, resolutionMm: 0.0001, offMm: [0.01, -0.02], longerMm: 0 };

export const SETUP: CircleSetup = {
  radiusMm: 150,
  feedMmMin: 1000,
  axes: [
    { letter: "X", perTurnMm: 10 },
    { letter: "Y", perTurnMm: 10 },
  ],
  centreMm: [300, 200],
};

/** Both ways round. */
export const bothWays = (
  plane: VirtualPlane,
  {
    bar = QUIET,
    samples = 2400,
    setup = SETUP,
    seed = 1,
    spanRad = 2 * Math.PI,
    fromRad = 0,
  }: Partial<{
    bar: VirtualBar;
    samples: number;
    setup: CircleSetup;
    seed: number;
    spanRad: number;
    fromRad: number;
  }> = {},
): CircleTrace[] =>
  ([1, -1] as const).map((direction) =>
    virtualCircle(plane, bar, {
      radiusMm: setup.radiusMm,
      feedMmMin: setup.feedMmMin,
      centreMm: setup.centreMm,
      direction,
      fromRad: direction === 1 ? fromRad : fromRad + spanRad,
      spanRad,
      samples,
      seed: 2 * seed + (direction === 1 ? 0 : 1),
    }),
  );
