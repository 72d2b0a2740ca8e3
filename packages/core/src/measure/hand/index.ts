export * from "./gib-methods";
export * from "./feel-results";
export * from "./feel-tests";
export * from "./hand-types";
export * from "./hand-plan";
export * from "./hand-result";
export * from "./push-result";
export * from "./crest-run";
