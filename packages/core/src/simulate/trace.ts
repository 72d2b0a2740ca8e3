import type { LoadSample } from "../measure";
import type { CrestPoint } from "../measure/hand/crest-run";
import { commandAxis, driveForce, restingState, type VirtualAxis } from "./virtual-axis";

/** Motor force that counts as full load on the simulated drive, N. */
export const FULL_LOAD_N = 3000;
const SAMPLES_EACH_WAY = 400;
const METER_NOISE_PERCENT = 0.22;
/** Acceleration at both ends of a stroke: its share of the travel, and the load it adds, %. */
const RAMP_PART = 0.015;
const RAMP_PERCENT = 18;

/**
 * A slow traverse both ways on a virtual axis: load in %, with the ramps at the ends.
 * @param axis - the virtual axis
 * @param normal - draws a standard normal number
 * @returns samples with place, mm, direction and load, %
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * simulateLoadTrace(virtual, () => 0).length > 100 // true
 */
export function simulateLoadTrace(axis: VirtualAxis, normal: () => number): readonly LoadSample[] {
  const samples: LoadSample[] = [];
  const step = axis.travelMm / SAMPLES_EACH_WAY;
  let state = commandAxis(axis, restingState(axis, axis.travelMm / 2), 0);
  for (const direction of ["+", "-"] as const) {
    const sign = direction === "+" ? 1 : -1;
    for (let i = 1; i <= SAMPLES_EACH_WAY; i += 1) {
      const positionMm = direction === "+" ? i * step : axis.travelMm - i * step;
      state = commandAxis(axis, state, positionMm);
      const done = i / SAMPLES_EACH_WAY;
      const ramp = done < RAMP_PART ? RAMP_PERCENT : done > 1 - RAMP_PART ? -RAMP_PERCENT : 0;
      const load = (100 * driveForce(axis, state)) / FULL_LOAD_N + sign * ramp + METER_NOISE_PERCENT * normal();
      samples.push({ positionMm, direction, load });
    }
  }
  return samples;
}

/** Out of line for each newton of binding towards an end, mm per m, at 0° and at 90°. */
const OUT_OF_LINE = [0.0007, 0.0003];

/** Where the bend of a bent screw points when it stands at zero, rad. */
const BEND_AT_RAD = 0.7;

/**
 * What a tip on the crest reads at a place, mm: out of line as its parts say, and a bend that turns
 * with the screw: the plane it lies in goes round once per turn, past the tip above and a quarter of
 * a turn later past the tip beside it.
 * @param axis - the virtual axis
 * @param options - `plane`: 0 above, 1 beside; `positionMm`: mm along the screw; `normal`: draws a standard normal
 *   number
 * @returns mm
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * crestReading(virtual, { plane: 0, positionMm: 0, normal: () => 0 }) // 0
 */
export function crestReading(
  axis: VirtualAxis,
  { plane, positionMm, normal }: { readonly plane: number; readonly positionMm: number; readonly normal: () => number },
): number {
  const { misalignN = 0, bendN = 0 } = axis.parts ?? {};
  const slope = (OUT_OF_LINE[plane] * misalignN) / 1000;
  const bow = 0.0012 * bendN * Math.sin((Math.PI * positionMm) / axis.travelMm);
  const turned = BEND_AT_RAD + (2 * Math.PI * positionMm) / axis.leadError.perTurnMm - (plane * Math.PI) / 2;
  return slope * positionMm + bow * Math.cos(turned) + 0.0015 * normal();
}

/**
 * Crest readings along the screw at 0° and 90°.
 * @param axis - the virtual axis
 * @param normal - draws a standard normal number
 * @returns places and readings of both planes, mm
 * @example
 * const virtual = defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1);
 * simulateCrestRun(virtual, () => 0).length // 2
 */
export function simulateCrestRun(axis: VirtualAxis, normal: () => number): readonly (readonly CrestPoint[])[] {
  const places = Array.from({ length: 9 }, (_, i) => ((i + 0.5) / 9) * axis.travelMm);
  return OUT_OF_LINE.map((_, plane) =>
    places.map((positionMm) => ({
      positionMm,
      readingMm: crestReading(axis, { plane, positionMm, normal }),
    })),
  );
}
