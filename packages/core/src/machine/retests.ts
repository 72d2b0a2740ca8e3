import type { AxisConfig } from "../axis";
import { jointsOf, type JointId } from "./joints";

export const RETEST_IDS = [
  "chain",
  "travel-load",
  "travel-steps",
  "home",
  "tram",
  "plumb",
  "pattern",
] as const;
export type RetestId = (typeof RETEST_IDS)[number];

const DRIVE: readonly JointId[] = [
  "motor",
  "hub-motor",
  "hub-screw",
  "belt",
  "mesh",
  "pinion",
  "retainer",
  "bearing-nut",
  "housing",
  "bearings",
  "far-support",
  "far-bearing",
  "screw",
  "screw-clamps",
  "balls",
  "nut-bracket",
  "bracket-member",
  "nut-flange",
  "antibacklash",
];
const WAY: readonly JointId[] = [
  "gib",
  "carriages",
  "v-wheels",
  "cage",
  "rack",
];

/** How full travel is proven here: by load where there is a meter, else by steps that are not lost. */
export function travelRetest(config: AxisConfig): RetestId {
  return config.motor === "servo" ? "travel-load" : "travel-steps";
}

/** What proves a joint after it was opened, on this axis; empty where nothing needs to. */
export function retestsOf(
  config: AxisConfig,
  joint: JointId,
): readonly RetestId[] {
  if (!jointsOf(config).includes(joint)) return [];
  if (DRIVE.includes(joint)) return ["chain"];
  if (joint === "carriages") return [travelRetest(config), "pattern"];
  if (WAY.includes(joint)) return [travelRetest(config)];
  if (joint === "home-switch") return ["home"];
  if (joint === "head") return ["tram"];
  return joint === "column" ? ["plumb"] : [];
}

/** Can this retest be done on this axis? */
export function canRetest(config: AxisConfig, retest: RetestId): boolean {
  return retest !== "travel-load" || config.motor === "servo";
}
