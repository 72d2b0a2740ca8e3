export * from "./gib-schools";
export * from "./hand-results";
export * from "./hand-tests";
export * from "./hand-types";
export * from "./hand-plan";
export * from "./hand-result";
export * from "./push-result";
export * from "./crest-run";
