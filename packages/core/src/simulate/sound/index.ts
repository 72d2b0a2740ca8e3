export * from "./sound-geometry";
export * from "./sound-ring";
export * from "./sound-run";
export * from "./sound-scene";
export * from "./virtual-sound";
export * from "./sound-sources";
export * from "./sound-ways";
