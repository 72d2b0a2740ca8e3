import { isLineTree, treeAdvice } from "./central-tree";

import type { CentralAdvice, Outlet } from "./outlet";

/**
 * The order to look in: the farthest fails first (common practice, no source).
 * @param outlets - the outlets, from the pump outwards
 * @returns their names, the farthest first
 * @example lookingOrder([{ name: "near", wet: true }, { name: "far", wet: true }]) // ["far", "near"]
 */
export function lookingOrder(outlets: readonly Outlet[]): readonly string[] {
  return outlets.map((o) => o.name).reverse();
}

/**
 * What wet and dry outlets say of a central system, from the pump outwards.
 * @param outlets - the outlets, from the pump outwards, wet, dry or not looked at
 * @returns what it means
 * @example centralAdvice([{ name: "near", wet: true }, { name: "far", wet: false }]).repair // true
 */
export function centralAdvice(outlets: readonly Outlet[]): CentralAdvice {
  const looked = outlets.filter((o) => o.wet !== null);
  const dry = looked.filter((o) => o.wet === false);
  if (looked.length === 0) return { says: "Look at the farthest outlet first.", look: [], repair: false };
  if (dry.length === 0) {
    const far = outlets.at(-1);
    return {
      says:
        far && far.wet === null
          ? "What was looked at is wet. The farthest outlet is not looked at yet, and it fails first."
          : "Every outlet that was looked at is wet.",
      look: [],
      repair: false,
    };
  }
  if (dry.length === looked.length)
    return {
      says: "Nothing comes anywhere: the pump side.",
      look: [
        "reservoir full, strainer clean",
        "prime: air in the pump, four strokes or till it resists",
        "pump and its pressure, main line whole",
      ],
      repair: true,
    };
  if (isLineTree(outlets.map((o) => o.name))) return treeAdvice(outlets);
  const lastWet = outlets.map((o) => o.wet).lastIndexOf(true);
  const beyond = outlets.slice(lastWet + 1).filter((o) => o.wet === false);
  if (beyond.length === dry.length && beyond.length > 1)
    return {
      says: `Wet as far as ${outlets[lastWet].name}, dry from ${beyond[0].name} on: the line between them.`,
      look: [
        `line between ${outlets[lastWet].name} and ${beyond[0].name}: crushed, cut or blocked`,
        "its fittings: weeping means the oil goes there",
      ],
      repair: true,
    };
  const names = dry.map((o) => o.name).join(", ");
  return {
    says: `Dry only at ${names}, with others wet: the doser there.`,
    look: dry.map((o) => `doser of ${o.name}: failed or blocked; then its own short line`),
    repair: true,
  };
}
