export * from "./types";
export { AXIS_FACTS, MACHINE_FACTS, openFact, factWords } from "./facts";
export * from "./job-kinds";
export * from "./planner";
export { checkOrder, edgesOf, factsAfter, openedLinks, type OrderBreach } from "./order"; // prettier-ignore
export * from "./estimate";
export * from "./fasteners";
export * from "./progress";
