export * from "./bounds";
export * from "./chain";
export * from "./config";
export * from "./defaults";
export * from "./usual-limits";
