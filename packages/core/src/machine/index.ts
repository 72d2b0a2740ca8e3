export * from "./axis";
export * from "./sister";
export * from "./mechanism";
