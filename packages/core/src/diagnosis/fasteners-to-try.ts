import type { AxisConfig } from "../machine/axis";
import type { FindingId } from "../measure";

/**
 * The fasteners of an axis that are tried at torque before any test, from the motor on.
 * @param axis its configuration
 * @returns their names, each with the finding that it is when one turns; null where that is only noted
 * Source: common practice, no source.
 * @example fastenersToTry(defaultAxis("router", "X"))[1].finding // "pinion-turns"
 */
export function fastenersToTry(axis: AxisConfig): readonly { name: string; finding: FindingId | null }[] {
  const rack = axis.transmission === "rack";
  const list: { name: string; finding: FindingId | null }[] = [{ name: "Motor screws", finding: null }];
  if (axis.transmission === "direct" || axis.transmission === "plain-screw")
    list.push({ name: "Coupling clamp screws, both hubs", finding: "coupling-turns" });
  if (rack) list.push({ name: "Pinion set screws", finding: "pinion-turns" }, { name: "Rack screws", finding: null });
  else {
    list.push({
      name:
        axis.mechanics.fixedEnd === "pillow-block"
          ? "Pillow block’s grub screws on the shaft"
          : axis.lockNut === "retainer-ring"
            ? "Bearing retainer ring, cap screws"
            : axis.lockNut === "double-nut-tab"
              ? "Bearing double nut and tab"
              : "Bearing nut and its clamp screw",
      finding: "retainer-turns",
    });
    if (axis.transmission === "rotating-nut")
      list.push(
        { name: "Flange of the turning nut", finding: "flange-turns" },
        { name: "Clamps of the standing screw, both ends", finding: "clamp-turns" },
      );
    else
      list.push(
        { name: "Bearing housing on its casting", finding: "housing-turns" },
        { name: "Nut in its bracket, bracket on the member", finding: "bracket-turns" },
      );
  }
  return list;
}
