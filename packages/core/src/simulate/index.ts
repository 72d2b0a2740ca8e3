export * from "./elastic-chain";
export * from "./indicator";
export * from "./noise";
export * from "./virtual-axis";
export * from "./device";
export * from "./default-axis";
