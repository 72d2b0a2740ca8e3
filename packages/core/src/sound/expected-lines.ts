import { travelPerTurnMm, type AxisConfig } from "../machine/axis";

export const LINE_FAMILIES = ["turn", "end-bearing", "deep-groove", "nut-balls", "rail-balls", "teeth"] as const;
export type LineFamily = (typeof LINE_FAMILIES)[number];

/** Where a line of this family may lie, in orders of screw or pinion. */
export interface ExpectedLine {
  readonly family: LineFamily;
  readonly from: number;
  readonly to: number;
}

/** Balls of rail carriages, mm, and how far apart they run as a share of it; sizes 15 to 45 (common practice, no source). */
const RAIL_BALLS_MM = [3.1, 6.4] as const;
const RAIL_APART = 1.04;

/** Balls in a turn of the thread, and how far they roll. The diameter of the ball is usually a fifth of the screw (no source). */
function nutBalls({ screw }: AxisConfig): readonly [number, number] {
  const around = (ballMm: number): number =>
    ((Math.PI * screw.nominalMm) / ballMm) * 0.5 * (1 - (0.7 * ballMm) / screw.nominalMm);
  const least = Math.min(0.5 * screw.leadMm, 0.14 * screw.nominalMm);
  const most = Math.min(0.75 * screw.leadMm, 0.25 * screw.nominalMm);
  return [around(most), around(least)];
}

/**
 * Lines that the parts of an axis may draw into its envelope spectrum, as spans: what is inside is seldom known, and slip
 * and contact angle move it. Screw bearings are angular sets of 12 to 20 balls at 60°, far ends and motors deep grooves of
 * 7 to 9 (common practice, no source).
 * @param config - configuration
 * @returns spans in orders of screw or pinion
 * @example expectedLines(defaultAxis("vertical-centre", "X"))[0] // { family: "turn", from: 0.97, to: 1.03 }
 */
export function expectedLines(config: AxisConfig): readonly ExpectedLine[] {
  const perTurn = travelPerTurnMm(config);
  const lines: ExpectedLine[] = [{ family: "turn", from: 0.97, to: 1.03 }];
  if (config.transmission !== "plain-screw" && config.bearings.startsWith("angular"))
    lines.push({ family: "end-bearing", from: 5.7, to: 13.2 });
  lines.push({ family: "deep-groove", from: 2.45 * config.ratio, to: 5.65 * config.ratio });
  if (config.transmission !== "rack" && config.transmission !== "plain-screw") {
    const [from, to] = nutBalls(config);
    lines.push({ family: "nut-balls", from, to });
  }
  if (config.guideway === "rail")
    lines.push({
      family: "rail-balls",
      from: perTurn / (2 * RAIL_APART * RAIL_BALLS_MM[1]),
      to: perTurn / (2 * RAIL_APART * RAIL_BALLS_MM[0]),
    });
  if (config.transmission === "rack" || config.transmission === "belt") {
    const modulus = config.pinionDiameterMm / 2;
    const teeth: readonly [number, number] = config.transmission === "rack" ? [0.6 * modulus, 1.4 * modulus] : [18, 34];
    lines.push({ family: "teeth", from: teeth[0], to: teeth[1] });
  }
  return lines;
}
