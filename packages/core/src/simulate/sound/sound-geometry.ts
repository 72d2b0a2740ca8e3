import type { AxisConfig } from "../../machine/axis";
import type { SoundLuck } from "./sound-ring";

/** What is inside the bearings, nut and carriages of one machine; nobody outside knows it exactly. */
export interface SoundGeometry {
  /** Blows a turn of the shaft from a pit in the outer ring, the inner ring and a ball, and turns of the cage. */
  readonly end: RingOrders;
  readonly support: RingOrders;
  readonly motor: RingOrders;
  /** Balls that pass a point of the nut in a turn of the screw. */
  readonly nutPass: number;
  /** Balls of a carriage that pass a point of the rail in a millimetre. */
  readonly railPassPerMm: number;
  /** Teeth of belt wheel or pinion that mesh in a turn. */
  readonly teeth: number;
  readonly polePairs: number;
}

interface RingOrders {
  readonly outer: number;
  readonly inner: number;
  readonly ball: number;
  readonly cage: number;
}

/** The inner ring turns with the shaft, the balls roll between: how often each part meets a pit. */
function ordersOf(balls: number, ratio: number): RingOrders {
  const cage = (1 - ratio) / 2;
  return { outer: balls * cage, inner: balls * (1 - cage), ball: (1 - ratio * ratio) / ratio, cage };
}

const whole = (u: number, least: number, most: number): number => Math.floor(least + u * (most - least + 1));

/**
 * Draws what is inside: screw bearings are steep and full of balls, motors and far ends have deep grooves. Plausible,
 * invented; sizes as in catalogues, from memory.
 * @param config - configuration
 * @param luck - draws
 * @returns the geometry
 * @example soundGeometry(defaultAxis("vertical-centre", "X"), soundLuck(1, 1)).motor.outer < 6 // true
 */
export function soundGeometry(config: AxisConfig, luck: SoundLuck): SoundGeometry {
  const { built } = luck;
  const slip = (): number => 1 - 0.01 * built();
  const deep = (): RingOrders => ordersOf(whole(built(), 7, 9), (0.19 + 0.07 * built()) * slip());
  const steep = config.bearings.startsWith("angular");
  const end = steep ? ordersOf(whole(built(), 13, 18), (0.15 + 0.03 * built()) * 0.5 * slip()) : deep();
  const { nominalMm, leadMm } = config.screw;
  const ball = Math.min(0.65 * leadMm, 0.22 * nominalMm);
  return {
    end,
    support: deep(),
    motor: deep(),
    nutPass: ((Math.PI * nominalMm) / (1.05 * ball)) * (0.5 - 0.5 * (ball / nominalMm) * 0.7),
    railPassPerMm: 1 / (2 * 1.03 * (3.2 + 2.4 * built())),
    teeth: config.transmission === "rack" ? Math.round(config.pinionDiameterMm / 2) : whole(built(), 20, 32),
    polePairs: config.motor === "stepper" ? 50 : whole(built(), 3, 5),
  };
}
