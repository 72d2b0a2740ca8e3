export * from "./circle-fit";
export * from "./circle-model";
export * from "./circle-program";
export * from "./circle-quantities";
export * from "./circle-trace";
