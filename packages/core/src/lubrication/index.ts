export * from "./asks-case";
export * from "./asks-case.text";
export * from "./bring";
export * from "./checks";
export * from "./first-due";
export * from "./late-risk";
export * from "./set-up";
export * from "./types";
export * from "./interval";
export * from "./templates";
export { THICKENERS, type Thickener } from "./thickeners.table";
export * from "./rounds";
export { keptWithin, waitBeyond } from "./rounds-room";
export {
  evenShare,
  roundCost,
  ROUND_WEIGHTS,
  visitCost,
  type LeftOutWhy,
  type PlanDay,
  type RoundPlan,
  type RoundWeights,
  type VisitNeed,
} from "./rounds-state";
export * from "./central";
export * from "./central-tree";
export * from "./places";
export * from "./outlet";
export * from "./horizon";
export * from "./lubricants";
export * from "./plan-changes";
export * from "./usage";
export * from "./visit.text";
export * from "./program-travel";
export * from "./shop-days";
