export * from "./axis";
export * from "./lostmotion";
export * from "./program";
export * from "./quantity";
export * from "./simulate";
export * from "./diagnosis";
