import type { AxisConfig } from "../axis";
import { bothTorques } from "../quantity";

/**
 * Tightening torque of class 8.8 screws, lightly oiled, N·m (bolt tables after VDI 2230, μ about
 * 0.12, from memory; rounded down). The machine’s book comes first.
 */
export const SCREW_TORQUES: Readonly<Record<string, number>> = {
  M4: 2.8,
  M5: 5.5,
  M6: 9.5,
  M8: 23,
  M10: 46,
  M12: 79,
};

/** What the screws at a bearing housing are likely to be, by the drive’s screw (common practice, no source). */
export function housingScrew(axis: AxisConfig): keyof typeof SCREW_TORQUES {
  const d = axis.transmission === "rack" ? 32 : axis.screw.nominalMm;
  if (d <= 12) return "M4";
  if (d <= 20) return "M5";
  if (d <= 25) return "M6";
  if (d <= 40) return "M8";
  return d <= 55 ? "M10" : "M12";
}

/** What a job sheet says of a torque: the book first, else the usual one in both units. */
export function torqueWords(
  axis: AxisConfig,
  what: "housing" | "small" | "bearing-nut",
): string {
  if (what === "bearing-nut")
    return "To the torque of the machine’s book; without one, by drag or feel. Write down what was used.";
  const size = what === "small" ? "M6" : housingScrew(axis);
  return `To the machine’s book; without one ${bothTorques(SCREW_TORQUES[size])} for ${size}, class 8.8, lightly oiled.`;
}
