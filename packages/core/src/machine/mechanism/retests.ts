import type { AxisConfig } from "../axis";
import { jointsOf, type JointId } from "./joints";
import { proofsOf, type Proof } from "./proofs";

export const RETEST_IDS = ["chain", "travel-load", "travel-steps", "home", "tram", "plumb", "pattern"] as const;
export type RetestId = (typeof RETEST_IDS)[number];

/** How full travel is proven here: by load where there is a meter, else by steps that are not lost. */
export function travelRetest(config: AxisConfig): RetestId {
  return config.motor === "servo" ? "travel-load" : "travel-steps";
}

/** What proves a joint after it was opened, on this axis; empty where nothing needs to. */
export function retestsOf(config: AxisConfig, joint: JointId): readonly RetestId[] {
  if (!jointsOf(config).includes(joint)) return [];
  return proofsOf(joint).map((proof) => retestFor(config, proof));
}

/** The retest by which this axis gives a proof. */
export function retestFor(config: AxisConfig, proof: Proof): RetestId {
  return proof === "travel" ? travelRetest(config) : proof;
}

/** Can this retest be done on this axis? */
export function canRetest(config: AxisConfig, retest: RetestId): boolean {
  return retest !== "travel-load" || config.motor === "servo";
}
