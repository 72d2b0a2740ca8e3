export * from "./bounds";
export * from "./chain";
export * from "./config";
export * from "./defaults";
export * from "./kinds";
export * from "./mechanics";
export * from "./usual-limits";
export * from "./usual-mechanics";
