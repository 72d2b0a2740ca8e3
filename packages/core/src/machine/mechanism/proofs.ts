import type { JointId } from "./joints";

/** What an opened joint owes before the machine is signed off. */
export const PROOFS = ["chain", "travel", "home", "tram", "plumb", "pattern"] as const;
export type Proof = (typeof PROOFS)[number];

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
const WAY: readonly JointId[] = ["gib", "carriages", "v-wheels", "cage", "rack"];

const PROOFS_OF = new Map<JointId, readonly Proof[]>([
  ...DRIVE.map((j) => [j, ["chain"]] as const),
  ...WAY.map((j) => [j, ["travel"]] as const),
  ["carriages", ["travel", "pattern"]],
  ["home-switch", ["home"]],
  ["head", ["tram"]],
  ["column", ["plumb"]],
]);

/**
 * What proves a joint after it was opened; empty where nothing needs to.
 * @param joint - the joint
 * @returns the proofs
 * @example proofsOf("cover").length // 0
 */
export function proofsOf(joint: JointId): readonly Proof[] {
  return PROOFS_OF.get(joint) ?? [];
}

/**
 * What a state still owes, from its notes.
 * @param notes - notes of a state
 * @returns the proofs
 * @example owedIn({}).length // 0
 */
export function owedIn(notes: Readonly<Record<string, true>>): readonly Proof[] {
  return PROOFS.filter((p) => notes[`owes:${p}`]);
}
