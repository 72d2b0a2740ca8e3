export * from "./series-plan";
export * from "./series-result";
