export * from "./bound-error";
export * from "./day";
export * from "./format";
export * from "./length";
export * from "./statistics";
export * from "./uncertainty";
export * from "./chi-squared";
export * from "./units";
