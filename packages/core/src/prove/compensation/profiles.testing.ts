import { defaultAxis } from "../../machine/axis";
import type { TargetReadings } from "../../measure/reversal";
import {
  commandAxis,
  comeToRest,
  defaultVirtualAxis,
  memberPosition,
  restingState,
  type VirtualAxis,
} from "../../simulate";
import type { Correction } from "./correction";
import { correctionAt, pointAt } from "./correction";
import type { Warmth } from "./carried-temperature";
import type { ProfileBasis } from "./profile-basis";

export const AT_TWENTY: Warmth = { carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 11.5, uK: 0 };

/** Deviations of a virtual axis against a perfect reference, to and fro. */
export function readProfile(axis: VirtualAxis, places: readonly number[], runs = 5): readonly TargetReadings[] {
  const up: number[][] = places.map(() => []);
  const down: number[][] = places.map(() => []);
  let state = restingState(axis, 5);
  const go = (mm: number): number => {
    const before = state.commandMm;
    state = comeToRest(axis, commandAxis(axis, state, mm), mm - before);
    return memberPosition(axis, state) - mm;
  };
  for (let run = 0; run < runs; run += 1) {
    go(5);
    places.forEach((mm, i) => up[i].push(go(mm)));
    go(axis.travelMm - 5);
    [...places].reverse().forEach((mm, i) => down[places.length - 1 - i].push(go(mm)));
  }
  return places.map((positionMm, i) => ({ positionMm, up: up[i], down: down[i] }));
}

/** An axis in order with errors of its screw. */
export function leadAxis(over: Partial<VirtualAxis> = {}, seed = 1): VirtualAxis {
  return {
    ...defaultVirtualAxis(defaultAxis("vertical-centre", "X"), seed),
    drift: { totalMm: 0, tauS: 1000 },
    pitchErrorMm: 0.04,
    leadError: { amplitudeMm: 0.0015, perTurnMm: 10 },
    slowError: { amplitudeMm: 0.006, waveMm: 400 },
    ...over,
  };
}

/** The table as a virtual control takes it. */
export const entered = (table: Correction): VirtualAxis["correction"] => ({
  startMm: table.rules.startMm,
  stepMm: table.rules.stepMm,
  upMm: table.up.map((_, i) => correctionAt(table, pointAt(table.rules, i), "+")),
  downMm: table.down ? table.down.map((_, i) => correctionAt(table, pointAt(table.rules, i), "-")) : null,
});

export const basisOf = (targets: readonly TargetReadings[], over: Partial<ProfileBasis> = {}): ProfileBasis => ({
  targets,
  warmth: AT_TWENTY,
  laser: null,
  referenceUPerM: 0,
  old: null,
  referenceMm: 0,
  ...over,
});
