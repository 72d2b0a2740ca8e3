import type { AxisConfig } from "../axis";
import { jointsOf, type JointId } from "./joints";
import { proofsOf, type Proof } from "./proofs";

export const RETEST_IDS = [
  "chain",
  "travel-load",
  "travel-steps",
  "home",
  "tram",
  "plumb",
  "pattern",
  "circle",
] as const;
export type RetestId = (typeof RETEST_IDS)[number];

/**
 * How full travel is proven here: by load where there is a meter, else by steps that are not lost.
 * @param config - the axis’ configuration
 * @returns the retest
 * @example travelRetest(defaultAxis("vertical-centre", "X")) // 'travel-load'
 */
export function travelRetest(config: AxisConfig): RetestId {
  return config.motor === "servo" ? "travel-load" : "travel-steps";
}

/**
 * What proves a joint after it was opened, on this axis; empty where nothing needs to.
 * @param config - the axis’ configuration
 * @param joint - the joint
 * @returns the retests
 * @example retestsOf(defaultAxis("vertical-centre", "X"), "cover").length // 0
 */
export function retestsOf(config: AxisConfig, joint: JointId): readonly RetestId[] {
  if (!jointsOf(config).includes(joint)) return [];
  return proofsOf(joint).map((proof) => retestFor(config, proof));
}

/**
 * The retest by which this axis gives a proof.
 * @param config - the axis’ configuration
 * @param proof - the proof
 * @returns the retest
 * @example retestFor(defaultAxis("vertical-centre", "X"), "travel") // 'travel-load'
 */
export function retestFor(config: AxisConfig, proof: Proof): RetestId {
  return proof === "travel" ? travelRetest(config) : proof;
}

/**
 * Can this retest be done on this axis?
 * @param config - the axis’ configuration
 * @param retest - the retest
 * @returns whether it can
 * @example canRetest(defaultAxis("vertical-centre", "X"), travelRetest(defaultAxis("vertical-centre", "X"))) // true
 */
export function canRetest(config: AxisConfig, retest: RetestId): boolean {
  return retest !== "travel-load" || config.motor === "servo";
}
