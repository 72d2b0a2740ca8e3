export * from "./gib-schools";
export * from "./hand-results";
export * from "./hand-tests";
export * from "./series-types";
export * from "./series-plan";
export * from "./series-result";
export * from "./push-result";
