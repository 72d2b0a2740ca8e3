export { axisWords, wordError } from "./address";
export * from "./gcode";
export * from "./moves";
