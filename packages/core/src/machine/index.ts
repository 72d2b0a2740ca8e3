export * from "./axis";
export * from "./mechanism";
