export { axisWords, wordWrong } from "./address";
export * from "./gcode";
export * from "./moves";
