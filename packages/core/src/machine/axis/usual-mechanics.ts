import type { AxisConfig } from "./config";
import type { MachineKind } from "./kinds";
import { BASE_MECHANICS, type AxisMechanics } from "./mechanics";

const LIGHT: Partial<AxisMechanics> = {
  fixedEnd: "pillow-block",
  farNut: false,
  couplingHidden: false,
  bumper: false,
  lubeLine: false,
};

const OF_KIND: Partial<Record<MachineKind, Partial<AxisMechanics>>> = {
  "bench-mill": {
    fixedEnd: "unpinned",
    farNut: false,
    couplingHidden: false,
    bumper: false,
    lubeLine: false,
    column: true,
  },
  engraver: LIGHT,
  router: { ...LIGHT, fixedEnd: "unpinned" },
  "surface-grinder": { lubeLine: false },
};

/**
 * What an axis of this kind of machine usually is, to start from; asked for, never silently believed.
 * Common practice, no source.
 * @param kind - kind of the machine
 * @param axis - its letter, member and orientation
 * @returns what is usual
 * @example Object.keys(usualMechanics("lathe", { letter: "X", member: "table", orientation: "horizontal" })).length > 5 // true
 */
export function usualMechanics(
  kind: MachineKind,
  axis: Pick<AxisConfig, "letter" | "member" | "orientation">,
): AxisMechanics {
  const usual = { ...BASE_MECHANICS, ...OF_KIND[kind] };
  return {
    ...usual,
    tableOverNut: kind === "bench-mill" && axis.member === "table",
    // The column stands on its base once for the machine: kept with the axis that runs along it.
    column: usual.column && axis.orientation === "vertical",
  };
}
