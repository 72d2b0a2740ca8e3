export * from "./levels";
export * from "./square-limits";
export * from "./square-value";
export * from "./square.text";
